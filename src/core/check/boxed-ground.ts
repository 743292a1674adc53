/** Boxes for ground: props that others stand on have too many triangles to be stood on one by one. */
import { MOST_TRIANGLES } from "../place";
import { list, say, NO_KEYS, type Check } from "./finding";

export const boxedGround: Check = {
  name: "boxed-ground",
  label: "Stood on by boxes",
  find({ dressing, boxed }) {
    if (boxed.length === 0) return [];
    return [
      {
        check: "boxed-ground",
        dressing: dressing.id,
        keys: NO_KEYS,
        count: 0,
        message: say`${list(boxed)} ${boxed.length === 1 ? "has" : "have"} more than ${MOST_TRIANGLES / 1e6} million triangles, so what is dropped onto it stands on the boxes of its props.`,
      },
    ];
  },
};
