/** Snap points as nodes without a mesh, under their names: up is where they point. */
import { add, between, conjugate, lengthOf, rotate, type Quat, type Vec3 } from "../math";
import { entryOf } from "../mesh";
import { FLAG, hexOf, standingAt, type Placements } from "../place";
import { snapPointsOf, type Prop } from "../scene";
import { snapFrame, type SnapPoint } from "../tie";
import { stands } from "./evaluated";
import type { Document, Node } from "@gltf-transform/core";

/** The snap points that artists have set, by props. */
export type OwnSnaps = ReadonlyMap<string, readonly SnapPoint[]>;

export const ownSnaps = (props: readonly Prop[]): OwnSnaps =>
  new Map(props.map((prop) => [prop.id, snapPointsOf(prop).filter(({ own }) => own)]));

export const snapNode = (document: Document, name: string, position: Vec3, rotation: readonly number[]): Node =>
  document
    .createNode(name)
    .setTranslation([...position])
    .setRotation(rotation as [number, number, number, number])
    .setExtras({ snap: true });

/** Where a snap point of something is whose matrix is known, 16 numbers, columns first; and which way its up is turned. */
export function snapPlaceIn(m: readonly number[], snap: SnapPoint): { position: Vec3; rotation: Quat } {
  const turned = ([x, y, z]: Vec3): Vec3 => [0, 1, 2].map((k) => m[k] * x + m[4 + k] * y + m[8 + k] * z) as unknown as Vec3; // prettier-ignore
  const up = turned(snap.direction);
  const long = lengthOf(up) || 1;
  const at = add(turned(snap.position), [m[12], m[13], m[14]]);
  return { position: at, rotation: between([0, 1, 0], [up[0] / long, up[1] / long, up[2] / long]) };
}

/**
 * Hangs the snap points of placement `i` below its node.
 *
 * @param mirrors whether what is mirrored has a mesh that is, and no node
 */
export function addSnaps(
  document: Document,
  node: Node,
  p: Placements,
  i: number,
  snaps: OwnSnaps,
  mirrors = true,
): void {
  for (const snap of snaps.get(p.props[p.prop[i]]) ?? []) {
    const entry = entryOf(p.shapes, i);
    if (p.shapes && entry >= 0) {
      // What is bent stands in a frame of its own.
      const { position, rotation } = snapFrame({ ...standingAt(p, i), ...counted(p, i) }, snap);
      const [px, py, pz, qx, qy, qz, qw] = p.shapes.frame.subarray(7 * entry, 7 * entry + 7);
      const back = conjugate([qx, qy, qz, qw]);
      const at = rotate(back, [position[0] - px, position[1] - py, position[2] - pz]);
      const up = rotate(back, rotate(rotation, [0, 1, 0]));
      node.addChild(snapNode(document, snap.name, at, between([0, 1, 0], up)));
      continue;
    }
    const side = mirrors && p.flags[i] & FLAG.mirrored ? -1 : 1;
    const [x, y, z] = snap.position;
    const [dx, dy, dz] = snap.direction;
    node.addChild(snapNode(document, snap.name, [side * x, y, z], between([0, 1, 0], [side * dx, dy, dz])));
  }
}

/** Where placement `i` is, from its dressing's node. */
const counted = (p: Placements, i: number) => ({
  position: [p.position[3 * i], p.position[3 * i + 1], p.position[3 * i + 2]] as Vec3,
});

/** All snap points of a dressing's placements, where these have no nodes of their own, in one node. */
export function addAllSnaps(document: Document, parent: Node, p: Placements, snaps: OwnSnaps): void {
  if (p.props.every((prop) => (snaps.get(prop) ?? []).length === 0)) return;
  const all = document.createNode(`${parent.getName()} snap points`);
  for (let i = 0; i < p.count; i++) {
    if (!stands(p, i)) continue;
    for (const snap of snaps.get(p.props[p.prop[i]]) ?? []) {
      const { position, rotation } = snapFrame({ ...standingAt(p, i), ...counted(p, i) }, snap);
      all.addChild(snapNode(document, snap.name, position, rotation).setExtras({ snap: true, key: hexOf(p.key[i]) }));
    }
  }
  if (all.listChildren().length > 0) parent.addChild(all);
  else all.dispose();
}
