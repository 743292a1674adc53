/** Torn: what goes over a crease of its surface, or over a tear of the sheet that its layout lies on. */
import { MATRIX, pieceOf, type PropBounds, type Shapes } from "../mesh";
import { FLAG } from "../place";
import { placesOf, tearUnder } from "./under";
import { say, metres, naming, props, type Check, type Finding } from "./finding";

const CHECK = "torn";
/** Facets that meet by more than this, radians, meet in a crease; by less they may be those of a round thing. */
const CREASE = (40 * Math.PI) / 180;
const degrees = (radians: number): string => `${Math.round((180 * radians) / Math.PI)}°`;

export const torn: Check = {
  name: CHECK,
  label: "Torn, or over a crease",
  find({ dressing, placements: p, box }) {
    const found: Finding[] = [];
    const told = (members: number[], message: Finding["message"], worst?: number, mend?: Finding["mend"]) => {
      if (members.length > 0)
        found.push({
          check: CHECK,
          dressing: dressing.id,
          ...naming(p, members),
          worst,
          message,
          ...(mend && { mend }),
        });
    };
    const { shapes } = p;
    if (shapes && dressing.fit.bend && shapes.pieces.length > 0) {
      const seen = new Map<number, { crease: number; tear: number }>();
      const [creased, pulled]: [number[], number[]] = [[], []];
      let [sharpest, widest] = [0, 0];
      shapes.entry.forEach((entry, i) => {
        if (entry < 0) return;
        const form = shapes.form[entry];
        let under = seen.get(form);
        if (!under) seen.set(form, (under = underForm(shapes, form, box(p.props[shapes.prop[form]]))));
        if (under.crease > 0) creased.push(i);
        if (under.tear > 0) pulled.push(i);
        [sharpest, widest] = [Math.max(sharpest, under.crease), Math.max(widest, under.tear)];
      });
      const verb = (count: number, one: string, more: string) => (count === 1 ? one : more);
      told(creased, say`${props(creased.length)} ${verb(creased.length, "is", "are")} bent over a crease of up to ${degrees(sharpest)}, and ${verb(creased.length, "breaks", "break")} there.`, undefined, "stiff"); // prettier-ignore
      told(pulled, say`${props(pulled.length)} ${verb(pulled.length, "lies", "lie")} over a tear of the sheet, which pulls ${verb(pulled.length, "it", "them")} apart by up to ${metres(widest)}.`, widest, "stiff"); // prettier-ignore
    }
    if (p.torn) {
      const beside: number[] = [];
      let widest = 0;
      p.torn.forEach((by, i) => {
        if (by === 0 || p.flags[i] & FLAG.blank) return;
        beside.push(i);
        widest = Math.max(widest, by);
      });
      told(beside, say`${props(beside.length)} ${beside.length === 1 ? "stands" : "stand"} beside a tear of the sheet: what is next to each other there is up to ${metres(widest)} farther apart on the surface.`, widest); // prettier-ignore
    }
    return found;
  },
};

function underForm(shapes: Shapes, form: number, bounds: PropBounds | undefined) {
  const piece = pieceOf(shapes, form);
  if (!bounds || piece.length === 0) return { crease: 0, tear: 0 };
  const places = placesOf(shapes.matrix.subarray(MATRIX * form, MATRIX * (form + 1)), bounds);
  return { crease: shapes.crease[form] > CREASE ? shapes.crease[form] : 0, tear: tearUnder(piece, places) };
}
