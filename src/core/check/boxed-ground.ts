/** Boxes for ground: props that others stand on have too many triangles to be stood on one by one. */
import { kindOf, MOST_IN_TURN, MOST_TRIANGLES } from "../place";
import { list, say, NO_KEYS, type Check, type Finding } from "./finding";

export const boxedGround: Check = {
  name: "boxed-ground",
  label: "Stood on by boxes",
  find({ dressing, placements, boxed }) {
    const about = { check: "boxed-ground", dressing: dressing.id, keys: NO_KEYS, count: 0 };
    const found: Finding[] = [];
    if (!kindOf(dressing.where).ruled && dressing.fit.dropAs === "turn" && placements.count > MOST_IN_TURN) {
      const most = MOST_IN_TURN.toLocaleString("en");
      const message = say`Only the first ${most} of ${placements.count.toLocaleString("en")} count as ground for those after them.`;
      found.push({ ...about, message });
    }
    if (boxed.length > 0)
      found.push({
        ...about,
        message: say`${list(boxed)} ${boxed.length === 1 ? "has" : "have"} more than ${MOST_TRIANGLES / 1e6} million triangles, so what is dropped onto it stands on the boxes of its props.`,
      });
    return found;
  },
};
