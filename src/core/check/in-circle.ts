/** In a circle: two dressings, each to be dropped onto the other's props. */
import type { Check } from "./finding";

export const inCircle: Check = {
  name: "in-circle",
  label: "In a circle",
  find({ dressing, circle }) {
    if (!circle) return [];
    return [
      {
        check: "in-circle",
        dressing: dressing.id,
        keys: [],
        count: 0,
        message: `“${dressing.name}” is to stand on “${circle}”, which stands on it in turn; so “${circle}” is not counted as its ground.`,
        mend: "leave-circle",
      },
    ];
  },
};
