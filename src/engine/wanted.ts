/** Which meshes an evaluation asks for. */
import { fieldIdsOf, propsIn, type Dressing } from "@/core/place";
import { dressingsUnder } from "./order";
import type { Scene, Surface } from "@/core/scene";

/**
 * The assets that an evaluation needs: pictures that are masks, and the meshes of surfaces that something is spread over or dropped onto, props among them, and props whose
 * lowest points are looked for; and surfaces that lines lie on. They are to be taught before, see `Engine.learn`.
 */
export function meshesWanted({ dressings, surfaces, props, mixes, lines }: Scene): Set<string> {
  const wanted = new Set<string>();
  const wantProps = ({ what, pegs }: Dressing) => {
    const named = new Set([...propsIn(what), ...pegs.flatMap(({ prop }) => prop ?? [])]);
    for (const mix of mixes) if (named.has(mix.id)) for (const { prop } of mix.props) named.add(prop);
    for (const { id, asset } of props) if (named.has(id)) wanted.add(asset);
  };
  const wantSurfaces = (which: (surface: Surface) => boolean) => {
    for (const surface of surfaces) {
      const asset = surface.standIn ?? surface.asset;
      if (asset !== null && which(surface)) wanted.add(asset);
    }
  };
  for (const { laid } of lines) {
    if (laid?.kind === "edges") wantSurfaces(({ id }) => id === laid.on);
    else if (laid) wantSurfaces(({ id, ground }) => (laid.on.length > 0 ? laid.on.includes(id) : ground));
  }
  for (const dressing of dressings) {
    const { fit, where, gaps } = dressing;
    if (where.kind !== "along") {
      const named = new Set([...fieldIdsOf(where), ...gaps.distances.map(({ to }) => to)]);
      wantSurfaces(({ id }) => named.has(id));
      for (const { asset } of gaps.images) wanted.add(asset);
    }
    if (fit.drop === "off") continue;
    wantSurfaces(({ id, ground }) => (fit.onto.length > 0 ? fit.onto.includes(id) : ground));
    if (fit.dropBy === "lowest") wantProps(dressing);
    for (const under of dressings) if (dressingsUnder(dressing).includes(under.id)) wantProps(under);
  }
  return wanted;
}
