/** What Spacing says of a rack. */
import { lengthParam } from "../../schema";

export const rackSpacingParams = {
  roomBehind: lengthParam({
    label: "Room behind",
    help: "How much room stays free between two that stand behind each other.",
    default: 0,
    min: 0,
    slider: [0, 0.3],
  }),
  roomAbove: lengthParam({
    label: "Room above",
    help: "How much room stays free between two that stand on top of each other.",
    default: 0,
    min: 0,
    slider: [0, 0.3],
  }),
};
