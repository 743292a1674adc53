/** Which meshes an evaluation asks for. */
import { propsIn, type Dressing } from "@/core/place";
import { dressingsUnder } from "./order";
import type { Scene } from "@/core/scene";

/**
 * The assets whose meshes an evaluation needs: surfaces that something is spread over or dropped onto, props among them, and props whose
 * lowest points are looked for. They are to be taught before, see `Engine.learn`.
 */
export function meshesWanted({ dressings, surfaces, props, mixes }: Scene): Set<string> {
  const wanted = new Set<string>();
  const wantProps = ({ what, pegs }: Dressing) => {
    const named = new Set([...propsIn(what), ...pegs.flatMap(({ prop }) => prop ?? [])]);
    for (const mix of mixes) if (named.has(mix.id)) for (const { prop } of mix.props) named.add(prop);
    for (const { id, asset } of props) if (named.has(id)) wanted.add(asset);
  };
  for (const dressing of dressings) {
    const { fit, where, gaps } = dressing;
    if (where.kind === "over") {
      const named = new Set([...where.surfaces, ...gaps.distances.map(({ to }) => to)]);
      for (const { id, asset } of surfaces) if (named.has(id)) wanted.add(asset);
    }
    if (fit.drop === "off") continue;
    for (const { id, asset, ground } of surfaces) {
      if (fit.onto.length > 0 ? fit.onto.includes(id) : ground) wanted.add(asset);
    }
    if (fit.dropBy === "lowest") wantProps(dressing);
    for (const under of dressings) if (dressingsUnder(dressing).includes(under.id)) wantProps(under);
  }
  return wanted;
}
