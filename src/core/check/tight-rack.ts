/** Tight rack: columns of a rack into whose depth or height not a single thing goes. */
import { say, NO_KEYS, type Check } from "./finding";

export const tightRack: Check = {
  name: "tight-rack",
  label: "Tight rack",
  find({ dressing, placements: { tight } }) {
    if (tight === 0) return [];
    const ways = ([["depth", dressing.where.deepBy], ["height", dressing.where.highBy]] as const).filter(([, by]) => by !== "number").map(([way]) => way); // prettier-ignore
    return [
      {
        check: "tight-rack",
        dressing: dressing.id,
        keys: NO_KEYS,
        count: tight,
        message: say`Not a single thing goes into the ${ways.join(" or ")} of ${tight === 1 ? "one column" : `${tight.toLocaleString("en")} columns`} of the rack. A greater ${ways.join(" or ")} under Where lets it in.`,
      },
    ];
  },
};
