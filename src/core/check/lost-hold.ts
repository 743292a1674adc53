/** Lost hold: a pin whose surface is gone, or is no more where it was pinned; it stays at the nearest place. */
import { FLAG, kindOf, LOOSE } from "../place";
import { isStanding } from "./rows";
import { say, naming, type Check } from "./finding";

export const lostHold: Check = {
  name: "lost-hold",
  label: "Lost hold",
  find({ dressing, placements: p }) {
    if (!kindOf(dressing.where).pins) return [];
    const gone: number[] = [];
    const strayed: number[] = [];
    for (let i = 0; i < p.count; i++) {
      if (!isStanding(p, i)) continue;
      if (p.fields[p.line[i]] === LOOSE) gone.push(i);
      else if (p.flags[i] & FLAG.strayed) strayed.push(i);
    }
    const found = (members: readonly number[], message: ReturnType<typeof say>, mend?: "hold-here") =>
      members.length === 0
        ? []
        : [
            {
              check: "lost-hold",
              dressing: dressing.id,
              ...naming(p, members),
              message,
              ...(mend && { mend }),
            },
          ];
    return [
      ...found(
        gone,
        gone.length === 1
          ? say`A pin's surface is gone. It stays where it was; drag it onto another.`
          : say`The surface of ${gone.length} pins is gone. They stay where they were; drag them onto another.`,
      ),
      ...found(
        strayed,
        strayed.length === 1
          ? say`A pin has lost hold: its surface is no more where it was, and it went to the nearest place.`
          : say`${strayed.length} pins have lost hold: their surface is no more where it was, and they went to the nearest place.`,
        "hold-here",
      ),
    ];
  },
};
