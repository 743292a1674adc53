/** Too many: the rules ask for more slots on a line than can be told apart. Nothing is left out without a word. */
import { say, NO_KEYS, type Check } from "./finding";

export const tooMany: Check = {
  name: "too-many",
  label: "Too many",
  find({ dressing, placements }) {
    if (placements.missing === 0) return [];
    const wanted = placements.count + placements.missing;
    return [
      {
        check: "too-many",
        dressing: dressing.id,
        keys: NO_KEYS,
        count: placements.missing,
        message: say`The spacing asks for ${wanted.toLocaleString("en")} slots; ${placements.count.toLocaleString("en")} are made. Choose a greater distance.`,
      },
    ];
  },
};
