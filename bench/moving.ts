/**
 * `pins-100k`, `waves-200k` and `skin-100k`: what is pinned to a mesh of 200,000 triangles, waves over one, and 100,000 vertices
 * that bones carry, a frame. The moved positions and normals are given to both sides where pins are carried.
 */
import { Bone, BufferAttribute, BufferGeometry, Matrix4, Quaternion, Skeleton, SkinnedMesh, Vector3 } from "three";
import { carriedFrames } from "../src/core/place/carried-frames";
import { writeMatrix } from "../src/core/place/drawn";
import { bind, RestMesh, WorldMesh, type MovedVertices } from "../src/core/mesh";
import { moverSchema, movedVertices, type Mover } from "../src/core/movers";
import { paletteOf, writeSkinned } from "../src/core/rig";
import { unit } from "../src/core/math";
import type { Contest } from "./row";

const SIDE = 316;
const PINS = 100_000;

/** A square cloth of about 200,000 triangles, 60 m wide. */
function cloth(): RestMesh {
  const n = SIDE + 1;
  const position = new Float32Array(3 * n * n);
  const index = new Uint32Array(6 * SIDE * SIDE);
  for (let i = 0, t = 0; i < n; i++) {
    for (let j = 0; j < n; j++) {
      position.set([(60 * i) / SIDE - 30, 0, (60 * j) / SIDE - 30], 3 * (i * n + j));
      if (i === SIDE || j === SIDE) continue;
      const a = i * n + j;
      index.set([a, a + 1, a + n + 1, a, a + n + 1, a + n], t);
      t += 6;
    }
  }
  return new RestMesh({ position, index, attributes: [] });
}

const rest = cloth();
const stand = { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: 1 } as const;
const mesh = WorldMesh.of("cloth", rest, stand);
const wave = { ...moverSchema.parse({ kind: "waves", length: 7, height: 0.8, gone: 1.3 }), id: 0 } as Mover;
const moved = movedVertices([{ mover: wave, weight: null }], rest, 1);
const { index } = rest.mesh;
const triangles = index.length / 3;

/** Places in triangles in no order. */
const triangle = Uint32Array.from({ length: PINS }, (_, i) => Math.floor(unit(1, 2, i, 0) * triangles));
const points = new Float64Array(3 * PINS);
for (let i = 0; i < PINS; i++) {
  const [r, s] = [unit(1, 3, i, 0), unit(1, 4, i, 0)];
  const [u, v] = r + s > 1 ? [1 - r, 1 - s] : [r, s];
  const P = mesh.position;
  const [a, b, c] = [0, 1, 2].map((k) => 3 * index[3 * triangle[i] + k]);
  for (let k = 0; k < 3; k++) points[3 * i + k] = P[a + k] + u * (P[b + k] - P[a + k]) + v * (P[c + k] - P[a + k]);
}
const which = new Uint16Array(PINS);

function ourPins() {
  const bound = bind([mesh], which, points, triangle, [[0, 0, 1]]);
  const position = new Float32Array(3 * PINS);
  const rotation = new Float32Array(4 * PINS);
  const matrices = new Float32Array(16 * PINS);
  const placed = { position, rotation, scale: new Float32Array(3 * PINS).fill(1) };
  const now = mesh.at(stand, moved);
  now.vertexNormals.at(0);
  return () => {
    carriedFrames({ bound, meshes: [now] }, [0, 0, 0], { all: 0, each: null }, position, rotation);
    for (let i = 0; i < PINS; i++) writeMatrix(placed, i, matrices, 16 * i);
    return matrices;
  };
}

/** As one would write it with three's own vectors. */
function theirPins({ position: P, normal: N }: MovedVertices) {
  const own = mesh.position;
  const weights = Array.from({ length: PINS }, (_, i) => {
    const t = triangle[i];
    const [a, b, c] = [0, 1, 2].map((k) => new Vector3().fromArray(own, 3 * index[3 * t + k]));
    const [e, f, g] = [b.clone().sub(a), c.clone().sub(a), new Vector3().fromArray(points, 3 * i).sub(a)];
    const [uu, uv, vv, gu, gv] = [e.dot(e), e.dot(f), f.dot(f), g.dot(e), g.dot(f)];
    const det = uu * vv - uv * uv;
    const [v, w] = [(vv * gu - uv * gv) / det, (uu * gv - uv * gu) / det];
    const [du, dv] = [e.z, f.z];
    return { u: 1 - v - w, v, w, p: (vv * du - uv * dv) / det, q: (uu * dv - uv * du) / det };
  });
  const matrices = new Float32Array(16 * PINS);
  return () => {
    for (let i = 0; i < PINS; i++) {
      const { u, v, w, p, q } = weights[i];
      const t = 3 * triangle[i];
      const [a, b, c] = [0, 1, 2].map((k) => new Vector3().fromArray(P, 3 * index[t + k]));
      const [l, m, n] = [0, 1, 2].map((k) => new Vector3().fromArray(N, 3 * index[t + k]));
      const place = a.clone().multiplyScalar(u).addScaledVector(b, v).addScaledVector(c, w);
      const up = l.clone().multiplyScalar(u).addScaledVector(m, v).addScaledVector(n, w).normalize();
      const ahead = b.clone().sub(a).multiplyScalar(p).addScaledVector(c.clone().sub(a), q);
      const across = up.clone().cross(ahead).normalize();
      const forward = across.clone().cross(up);
      const turn = new Quaternion().setFromRotationMatrix(new Matrix4().makeBasis(across, up, forward));
      new Matrix4().compose(place, turn, new Vector3(1, 1, 1)).toArray(matrices, 16 * i);
    }
    return matrices;
  };
}

function theirWaves() {
  const geometry = new BufferGeometry();
  const start = Float32Array.from(rest.mesh.position);
  geometry.setAttribute("position", new BufferAttribute(start.slice(), 3));
  geometry.setIndex(new BufferAttribute(index, 1));
  geometry.computeVertexNormals();
  const position = geometry.getAttribute("position");
  const [k, amplitude, gone] = [(2 * Math.PI) / 7, 0.4, 1.3];
  const round = 0.4 * Math.min(amplitude, 1 / k);
  return () => {
    for (let v = 0; v < position.count; v++) {
      const x = start[3 * v];
      const phase = k * (x - gone);
      position.setXYZ(v, x - round * Math.sin(phase), amplitude * Math.cos(phase), start[3 * v + 2]);
    }
    position.needsUpdate = true;
    geometry.computeVertexNormals();
    return geometry;
  };
}

const SKINNED = 100_000;
const BONES = 60;

function skins(): { ours: () => unknown; theirs: () => unknown } {
  const position = Float32Array.from({ length: 3 * SKINNED }, (_, p) => unit(2, 1, p, 0) - 0.5);
  const joint = Uint16Array.from({ length: 4 * SKINNED }, (_, i) => Math.floor(BONES * unit(2, 2, i, 0)));
  const weight = Float32Array.from({ length: 4 * SKINNED }, (_, i) => 0.1 + unit(2, 3, i, 0));
  for (let i = 0; i < weight.length; i += 4) {
    const sum = weight[i] + weight[i + 1] + weight[i + 2] + weight[i + 3];
    for (let k = 0; k < 4; k++) weight[i + k] /= sum;
  }
  const bones = Array.from({ length: BONES }, (_, j) => {
    const bone = new Bone();
    bone.position.set(unit(2, 4, j, 0), unit(2, 5, j, 0), unit(2, 6, j, 0));
    return bone;
  });
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(position, 3));
  geometry.setAttribute("skinIndex", new BufferAttribute(joint, 4));
  geometry.setAttribute("skinWeight", new BufferAttribute(weight, 4));
  const mesh = new SkinnedMesh(geometry);
  for (const bone of bones) mesh.add(bone);
  mesh.updateMatrixWorld(true);
  mesh.bind(new Skeleton(bones));
  const inverse = new Float64Array(12 * BONES);
  const matrices = new Float64Array(12 * BONES);
  const rows = (m: Matrix4) => [0, 1, 2].flatMap((row) => [0, 4, 8, 12].map((column) => m.elements[row + column]));
  mesh.skeleton.boneInverses.forEach((m, j) => inverse.set(rows(m), 12 * j));
  bones.forEach((bone, j) => bone.rotation.set(unit(2, 7, j, 0), unit(2, 8, j, 0), 0));
  mesh.updateMatrixWorld(true);
  bones.forEach((bone, j) => matrices.set(rows(bone.matrixWorld), 12 * j));
  const skin = { joints: Uint32Array.from(bones, (_, j) => j), inverse, influences: 4, joint, weight };
  const out = new Float64Array(3 * SKINNED);
  const [place, theirs] = [new Vector3(), new Float32Array(3 * SKINNED)];
  return {
    ours: () => {
      writeSkinned(out, 0, position, skin, paletteOf(skin, matrices));
      return out;
    },
    theirs: () => {
      for (let v = 0; v < SKINNED; v++)
        mesh.applyBoneTransform(v, place.fromArray(position, 3 * v)).toArray(theirs, 3 * v);
      return theirs;
    },
  };
}

export const movingContests = (): Contest[] => [
  {
    name: "pins-100k",
    n: PINS,
    peer: "three's Vector3, Quaternion and Matrix4, with clones",
    ours: ourPins(),
    theirs: theirPins(moved),
  },
  {
    name: "waves-200k",
    n: triangles,
    peer: "three, a loop and computeVertexNormals",
    ours: () => movedVertices([{ mover: wave, weight: null }], rest, 1),
    theirs: theirWaves(),
  },
  { name: "skin-100k", n: SKINNED, peer: "three's applyBoneTransform", ...skins() },
];
