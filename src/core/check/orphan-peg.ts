/** Orphaned peg: a placement that was pegged by hand, whose slot is no longer there. The peg is kept. */
import { keyOfHex, type Dressing, type Placements } from "../place";
import { say, thing, MAX_KEYS, NO_KEYS, type Check, type Finding, type Sentence } from "./finding";
import type { GuideLine } from "../line";

export const orphanPeg: Check = {
  name: "orphan-peg",
  label: "Peg without a slot",
  find({ dressing, placements: { orphans, brought }, line }) {
    const left = brought?.left ?? [];
    return [
      ...(orphans.length > 0 ? [withoutSlot(dressing, orphans, line)] : []),
      ...(left.length > 0 ? [ofOldVersion(dressing, left)] : []),
    ];
  },
};

function withoutSlot(
  dressing: Dressing,
  orphans: readonly string[],
  line: (id: string) => GuideLine | undefined,
): Finding {
  const { on } = dressing.pegs[orphans[0]] ?? { on: "" };
  return {
    check: "orphan-peg",
    dressing: dressing.id,
    ...(line(on) && { line: on }),
    keys: BigUint64Array.from(orphans.slice(0, MAX_KEYS), keyOfHex),
    count: orphans.length,
    message:
      orphans.length === 1
        ? say`A placement pegged by hand has lost its slot. It comes back with the slot.`
        : say`${orphans.length} placements pegged by hand have lost their slots. They come back with the slots.`,
    mend: "drop-pegs",
    pegs: [...orphans],
  };
}

/** Pegs of version 5 near whose slots none is now: the first few are told by their places. */
function ofOldVersion({ id }: Dressing, left: NonNullable<Placements["brought"]>["left"]): Finding {
  const places = left.slice(0, TOLD).map(({ peg, place }): Sentence => {
    const at = place ? `${place.map((x) => x.toFixed(2)).join(", ")} m on ` : "on ";
    return say`${at}“${thing(peg.line)}”`;
  });
  const told = places.reduce((all, place, i) => (i === 0 ? place : say`${all}; ${place}`));
  const more = left.length > places.length ? say`${told} and more` : told;
  return {
    check: "orphan-peg",
    dressing: id,
    keys: NO_KEYS,
    count: left.length,
    message:
      left.length === 1
        ? say`A placement pegged in an earlier version has none near its place now: ${more}.`
        : say`${left.length} placements pegged in an earlier version have none near their places now: ${more}.`,
    mend: "drop-old-pegs",
  };
}

/** So many places are told. */
const TOLD = 3;
