/** A box drawn over the view, which selects what lies in it. */
import { useMove } from "../move-state";
import { selectBox } from "../selecting";
import type { Grip } from "./grip";

export const boxGrip = (): Grip => ({
  label: null,
  drag: ({ pressed, event }) =>
    useMove.setState({ box: { x: pressed.x, y: pressed.y, toX: event.clientX, toY: event.clientY } }),
  end({ aim }) {
    const { box } = useMove.getState();
    if (box) selectBox(aim, box);
  },
});
