/** Which meshes an evaluation asks for. */
import { kindOf, fieldIdsOf, type Dressing } from "@/core/place";
import { filesOf, isOn } from "@/core/movers";
import { thingsOf } from "@/core/made";
import { laidOf, type Line } from "@/core/line";
import { wishesOf } from "./needs";
import { allParts, isSeenPart, meshAssetOf, propsWithin, tiesIn, type Scene, type Surface } from "@/core/scene";
import { holderOf } from "@/core/tie";

/** The props whose meshes are compared where a dressing keeps clear by them: its own, and those that it gives way to. */
export const propsCompared = (scene: Scene) => {
  const [within, all] = [propsWithin(scene), allParts(scene).dressings];
  return (dressing: Dressing): string[] =>
    [dressing, ...all.filter(({ id }) => dressing.fit.clearOf.includes(id))].flatMap((one) => [...within(one)]);
};

/**
 * The assets that an evaluation needs: pictures that are masks, and the meshes of surfaces that something is spread over or dropped onto, props among them, and props whose
 * lowest points are looked for; and surfaces that lines lie on. They are to be taught before, see `Engine.learn`.
 */
export function meshesWanted(scene: Scene): Set<string> {
  const { props } = scene;
  const all = allParts(scene);
  const { dressings, surfaces, lines } = all;
  const wanted = new Set<string>();
  const within = propsWithin(scene);
  const compared = propsCompared(scene);
  const wantNamed = (named: ReadonlySet<string>) => {
    for (const { id, asset } of props) if (asset !== null && named.has(id)) wanted.add(asset);
  };
  const wantProps = (dressing: Dressing) => wantNamed(within(dressing));
  const wantSurfaces = (which: (surface: Surface) => boolean) => {
    for (const surface of surfaces) {
      const asset = meshAssetOf(surface);
      if (asset !== null && which(surface)) wanted.add(asset);
    }
  };
  for (const line of lines) {
    const laid = laidOf(line as Line);
    if (laid?.kind === "edges") wantSurfaces(({ id }) => id === laid.on);
    else if (laid) wantSurfaces(({ id, ground }) => (laid.on.length > 0 ? laid.on.includes(id) : ground));
  }
  wantSurfaces(isSeenPart);
  // What moves is drawn as it is worked out.
  wantSurfaces(({ movers }) => movers.some(isOn));
  const holders = new Set(tiesIn(all).map(({ tie }) => holderOf(tie)));
  wantSurfaces(({ id }) => holders.has(id));
  const bodies = new Set(surfaces.flatMap(({ made }) => (made ? thingsOf(made) : [])));
  wantSurfaces(({ id }) => bodies.has(id));
  for (const dressing of dressings) if (bodies.has(dressing.id)) wantProps(dressing);
  for (const { movers } of surfaces) for (const mover of movers) for (const asset of filesOf(mover)) wanted.add(asset);
  for (const dressing of dressings) {
    const { fit, where, gaps } = dressing;
    if (!kindOf(where).ordered) {
      const named = new Set([...fieldIdsOf(where), ...gaps.distances.map(({ to }) => to)]);
      wantSurfaces(({ id }) => named.has(id));
      for (const { asset } of gaps.images) wanted.add(asset);
    }
    // Whether they reach through the walls of what they fill is told by their meshes.
    if (kindOf(where).fills) wantProps(dressing);
    if (dressing.variation.pose !== "off") wantProps(dressing);
    if (fit.clear === "mesh") {
      wantNamed(new Set(compared(dressing)));
    }
    if (fit.drop === "off") continue;
    wantSurfaces(({ id, ground }) => (fit.onto.length > 0 ? fit.onto.includes(id) : ground));
    if (fit.dropBy === "lowest" || (!kindOf(where).ruled && fit.dropAs === "turn")) wantProps(dressing);
    const { under } = wishesOf(dressing);
    for (const other of dressings) if (under.includes(other.id)) wantProps(other);
  }
  return wanted;
}

/** Whether props may poke through a surface: not through water and what is only a space. */
export const isWall = ({ solid, hidden, outline }: Surface): boolean => solid && !hidden && !outline;

/** The assets that are needed besides for telling what pokes through: all props' in use, and those of solid surfaces. */
export function meshesCompared(scene: Scene): Set<string> {
  const { dressings, surfaces, props } = scene;
  const walls = surfaces.filter(isWall);
  if (walls.length === 0) return new Set();
  const within = propsWithin(scene);
  const used = new Set(dressings.flatMap((dressing) => [...within(dressing)]));
  const meshes = walls.flatMap((surface) => meshAssetOf(surface) ?? []);
  return new Set([...meshes, ...props.flatMap(({ id, asset }) => (asset !== null && used.has(id) ? asset : []))]);
}
