/** Too many: the rules ask for more slots on a line than can be told apart, or assemblies hold too much. Nothing is left out without a word. */
import { say, NO_KEYS, type Check, type Sentence } from "./finding";

export const tooMany: Check = {
  name: "too-many",
  label: "Too many",
  find({ dressing, placements: { missing, count }, leftOut }) {
    const finding = (beyond: number, message: Sentence) =>
      beyond > 0 ? [{ check: "too-many", dressing: dressing.id, keys: NO_KEYS, count: beyond, message }] : [];
    return [
      ...finding(
        missing,
        say`The spacing asks for ${(count + missing).toLocaleString("en")} slots; ${count.toLocaleString("en")} are made. Choose a greater distance.`,
      ),
      ...finding(
        leftOut,
        say`With all that is in its assemblies this dressing would come to far too many things; ${leftOut.toLocaleString("en")} of them are left out.`,
      ),
    ];
  },
};
