/** In a circle: dressings each of which is to stand on the next one's props, to give way to them or to mind their distance. */
import { list, say, thing, NO_KEYS, type Check } from "./finding";

export const inCircle: Check = {
  name: "in-circle",
  label: "In a circle",
  find({ dressing, circle, uncounted }) {
    if (uncounted.length === 0) return [];
    return [
      {
        check: "in-circle",
        dressing: dressing.id,
        keys: NO_KEYS,
        count: 0,
        message: say`${list(circle)} hang on each other in a circle; so ${list(uncounted)} ${uncounted.length === 1 ? "does" : "do"} not count for “${thing(dressing.id, "dressing")}”.`,
        mend: "leave-circle",
      },
    ];
  },
};
