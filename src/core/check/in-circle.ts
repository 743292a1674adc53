/** In a circle: two dressings, each of which is to stand on the other's props or to give way to them. */
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
        message: `“${dressing.name}” is to stand on “${circle}”, to give way to it or to mind its distance, and that one depends on it in turn; so “${circle}” does not count for it.`,
        mend: "leave-circle",
      },
    ];
  },
};
