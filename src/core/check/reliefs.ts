/** Reliefs that run into each other: what is pinned and bent over a surface lies over another such thing there. */
import { footprintsOf, kindOf, lyingOver } from "../place";
import { isStanding } from "./rows";
import { say, naming, props, type Check } from "./finding";

export const reliefs: Check = {
  name: "reliefs",
  label: "Overlapping reliefs",
  find({ dressing, placements: p, box }) {
    const { shapes } = p;
    if (!shapes || !dressing.fit.bend || !kindOf(dressing.where).pins || shapes.pieces.length === 0) return [];
    const standing = Array.from({ length: p.count }, (_, i) => i).filter((i) => isStanding(p, i));
    const all = footprintsOf(shapes, standing, (i) => box(p.props[p.prop[i]]));
    const named = [...new Set([...lyingOver(all)].flat())].sort((a, b) => a - b);
    if (named.length === 0) return [];
    return [
      {
        check: "reliefs",
        dressing: dressing.id,
        ...naming(p, named),
        message: say`${props(named.length)} that are bent over the surface lie over each other there.`,
      },
    ];
  },
};
