/** Lost tie: a line or surface of the dressing, or one of its placements, that is held by something that is gone, or that hangs on it in turn. */
import { list, NO_KEYS, say, type Check, type Finding } from "./finding";

export const lostTie: Check = {
  name: "lost-tie",
  label: "Lost tie",
  find: ({ dressing, ties }) =>
    ties.map(({ held, holder, trouble }): Finding => {
      const own = held === dressing.id;
      const what = own ? say`One of ${list([held], "dressing")}` : list([held], "guide");
      return {
        check: "lost-tie",
        dressing: dressing.id,
        ...(!own && { line: held }),
        keys: NO_KEYS,
        count: 0,
        message:
          trouble === "gone"
            ? say`${what} was held by something that is gone. It stays where it was; hold it by something else, or let it go.`
            : say`${what} is held by ${list([holder.id], holder.kind)}, which hangs on it in turn, so it is held by nothing.`,
      };
    }),
};
