/** Orphaned peg: a placement that was pegged by hand, whose slot is no longer there. The peg is kept. */
import { kindOf, keyOf } from "../place";
import { say, MAX_KEYS, type Check } from "./finding";

export const orphanPeg: Check = {
  name: "orphan-peg",
  label: "Peg without a slot",
  find({ dressing, placements, line }) {
    const { orphans } = placements;
    if (orphans.length === 0) return [];
    const keys = orphans.flatMap((k) => {
      const peg = dressing.pegs[k];
      const guide = kindOf(dressing.where).ordered ? line(peg.line) : undefined;
      return guide ? [keyOf(guide.number, peg.slot)] : [];
    });
    const first = dressing.pegs[orphans[0]].line;
    return [
      {
        check: "orphan-peg",
        dressing: dressing.id,
        ...(line(first) && { line: first }),
        keys: keys.slice(0, MAX_KEYS),
        count: orphans.length,
        message:
          orphans.length === 1
            ? say`A placement pegged by hand has lost its slot. It comes back with the slot.`
            : say`${orphans.length} placements pegged by hand have lost their slots. They come back with the slots.`,
        mend: "drop-pegs",
        pegs: [...orphans],
      },
    ];
  },
};
