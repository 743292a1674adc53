/** Sown astray: what was sown on something that its dressing lies on no more. It is kept, and comes back with that. */
import { countThere, kindOf } from "../place";
import { NO_KEYS, say, thing, type Check, type Sentence } from "./finding";

/** So many of the surfaces are told. */
const TOLD = 3;

export const sownAstray: Check = {
  name: "sown-astray",
  label: "Sown on what it lies on no more",
  find({ dressing, placements: { fields } }) {
    const astray = dressing.sown.filter(({ on }) => !kindOf(dressing.where).sows || !fields.includes(on));
    if (astray.length === 0) return [];
    const count = astray.reduce((sum, { places }) => sum + countThere(places), 0);
    const surfaces = [...new Set(astray.map(({ on }) => on))].slice(0, TOLD).map((on) => thing(on));
    const named = surfaces.reduce<Sentence>((all, one, i) => (i === 0 ? say`“${one}”` : say`${all}, “${one}”`), []);
    return [
      {
        check: "sown-astray",
        dressing: dressing.id,
        keys: NO_KEYS,
        count,
        message: say`${count} ${count === 1 ? "prop that was" : "props that were"} sown on ${named} ${count === 1 ? "is" : "are"} not shown: the dressing lies on that no more. They come back with it.`,
        mend: "drop-sown",
        strokes: astray.map(({ number }) => number),
      },
    ];
  },
};
