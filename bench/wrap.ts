/**
 * `wrap-1m`: a million vertices carried over a curved surface with their normals, by the surface as it is laid flat, against
 * looking for each vertex's nearest point with three-mesh-bvh, which is what one would otherwise write: the same positions and
 * normals at its end, bent by hand onto a rough copy first.
 */
import { BufferAttribute, BufferGeometry, Quaternion, Vector3 } from "three";
import { MeshBVH } from "three-mesh-bvh";
import { writeFromBasis, type Quat, type Vec3 } from "../src/core/math";
import { onPiece, PIECE, Piece, RestMesh, WorldMesh, type TriangleMesh } from "../src/core/mesh";
import { pieceAround } from "../src/core/place/fit/neighbourhood";
import { lattice, round } from "../src/core/mesh/unroll/testing";
import { compete, type Row } from "./row";

const [RADIUS, HIGH, COLUMNS, ROWS] = [0.6, 1.4, 160, 80];
const SIDE = 1000;

/** A buoy's belly as a piece that is laid flat: round it to the left, up it ahead. */
function belly(): { piece: Float32Array; position: Float64Array; index: Uint32Array; normal: (v: number) => number[] } {
  const at = (v: number) => RADIUS * (0.8 + 0.2 * Math.sin(Math.PI * v));
  const [position, index] = lattice(ROWS, COLUMNS, (u, v) => round(u, at(v), HIGH * (1 - v)));
  const wide = COLUMNS + 1;
  const flat = (v: number) => [
    2 * Math.PI * RADIUS * (0.5 - (v % wide) / COLUMNS),
    HIGH * (0.5 - Math.floor(v / wide) / ROWS),
  ];
  const normal = (v: number) => {
    const [x, , z] = position.subarray(3 * v, 3 * v + 3);
    const slope = (0.2 * Math.PI * RADIUS * Math.cos((Math.PI * Math.floor(v / wide)) / ROWS)) / HIGH;
    const far = Math.hypot(x, z);
    return [x / far, slope, z / far].map((value) => value / Math.hypot(1, slope));
  };
  const piece = new Float32Array((PIECE * index.length) / 3);
  index.forEach((v, c) => piece.set([...flat(v), ...position.subarray(3 * v, 3 * v + 3), ...normal(v)], 8 * c));
  return { piece, position, index, normal };
}

export function wrapRow(): Row {
  const { piece, position, index, normal } = belly();
  const n = SIDE * SIDE;
  const points = new Float32Array(3 * n);
  const normals = new Float32Array(3 * n);
  const rough = new Float64Array(3 * n);
  for (let i = 0; i < n; i++) {
    const [u, v] = [(i % SIDE) / SIDE, Math.floor(i / SIDE) / SIDE];
    points.set(
      [
        2 * Math.PI * RADIUS * (0.499 - 0.998 * u),
        0.01 * Math.sin(40 * u) * Math.sin(30 * v),
        HIGH * (0.499 - 0.998 * v),
      ],
      3 * i,
    );
    normals.set([0, 1, 0], 3 * i);
    rough.set(round(u, RADIUS, HIGH * (1 - v)), 3 * i);
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(Float32Array.from(position), 3));
  geometry.setIndex(new BufferAttribute(index, 1));
  const bvh = new MeshBVH(geometry);
  const vertexNormals = Float32Array.from({ length: position.length }, (_, c) => normal(Math.floor(c / 3))[c % 3]);
  const carrier = new Piece(piece);
  return compete({
    name: "wrap-1m",
    n,
    peer: "three-mesh-bvh closestPointToPoint, weights and normals per vertex",
    ours() {
      const carried = carrier.carry(points);
      return [carried, carrier.turnedNormals(normals, 3)];
    },
    theirs() {
      const out = new Float32Array(3 * n);
      const turned = new Float32Array(3 * n);
      const [p, w] = [new Vector3(), new Vector3()];
      const [a, b, c] = [new Vector3(), new Vector3(), new Vector3()];
      const hit = { point: new Vector3(), distance: 0, faceIndex: 0 };
      for (let i = 0; i < n; i++) {
        bvh.closestPointToPoint(p.fromArray(rough, 3 * i), hit);
        const [i0, i1, i2] = [index[3 * hit.faceIndex], index[3 * hit.faceIndex + 1], index[3 * hit.faceIndex + 2]];
        a.fromArray(position, 3 * i0);
        b.fromArray(position, 3 * i1);
        c.fromArray(position, 3 * i2);
        barycentric(hit.point, a, b, c, w);
        a.fromArray(vertexNormals, 3 * i0);
        b.fromArray(vertexNormals, 3 * i1);
        c.fromArray(vertexNormals, 3 * i2);
        a.multiplyScalar(w.x).addScaledVector(b, w.y).addScaledVector(c, w.z).normalize();
        hit.point.addScaledVector(a, points[3 * i + 1]).toArray(out, 3 * i);
        a.toArray(turned, 3 * i);
      }
      return [out, turned];
    },
  });
}

/**
 * `relief-100k`: a relief of 100,000 vertices moved to another place of an oblong float, its neighbourhood laid flat anew each time,
 * against the same look-ups per vertex.
 */
export function reliefRow(): Row {
  const [position, index] = lattice(
    140,
    240,
    (u, v) => round(u, 0.42 * Math.sin(0.02 + 3.1 * v), 0.62 * Math.cos(0.02 + 3.1 * v)),
    true,
  );
  const stand = { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: 1 } as const;
  const ground = WorldMesh.of("float", new RestMesh({ position, index, attributes: [] }), stand);
  const side = 316;
  const n = side * side;
  const relief = gridOf(side, 0.36, (u, v) => 0.01 + 0.006 * Math.sin(20 * u) * Math.sin(25 * v));
  const reach = [-0.18, -0.18, 0.18, 0.18] as const;
  const normals = new Float64Array(3);
  const feet = [0, 1, 2, 3].map((k) => {
    const triangle = 2 * (60 * 240 + 20 * k) + 1;
    const at = [0, 1, 2].map((axis) =>
      [0, 1, 2].reduce((sum, c) => sum + position[3 * index[3 * triangle + c] + axis] / 3, 0),
    );
    ground.smoothNormal(triangle, at[0], at[1], at[2], normals);
    const [x, y, z] = normals;
    const level = Math.hypot(x, z);
    const rotation = new Float64Array(4);
    // Left, up by the normal, ahead up the float.
    const ahead = [(-x * y) / level, level, (-z * y) / level];
    const left = [y * ahead[2] - z * ahead[1], z * ahead[0] - x * ahead[2], x * ahead[1] - y * ahead[0]];
    writeFromBasis(rotation, 0, left[0], left[1], left[2], x, y, z, ahead[0], ahead[1], ahead[2]);
    return { triangle, foot: { position: at as unknown as Vec3, rotation: [...rotation] as unknown as Quat } };
  });
  let turn = 0;
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(Float32Array.from(position), 3));
  // The peer sorts it.
  const sorted = index.slice();
  geometry.setIndex(new BufferAttribute(sorted, 1));
  const bvh = new MeshBVH(geometry);
  return compete({
    name: "relief-100k",
    n,
    peer: "three-mesh-bvh closestPointToPoint per vertex, from where it lies flat",
    ours() {
      const { foot, triangle } = feet[turn++ % feet.length];
      return onPiece(relief, Float32Array.from(pieceAround(ground, foot, triangle, reach).piece), 0.001);
    },
    theirs() {
      const { foot } = feet[turn++ % feet.length];
      const out = new Float32Array(3 * n);
      const turned = new Float32Array(3 * n);
      const [p, q] = [new Vector3(), new Quaternion(...foot.rotation)];
      const [a, b, c, w, N] = [new Vector3(), new Vector3(), new Vector3(), new Vector3(), new Vector3()];
      const hit = { point: new Vector3(), distance: 0, faceIndex: 0 };
      const vertexNormals = ground.vertexNormals;
      for (let i = 0; i < n; i++) {
        p.set(relief.position[3 * i], 0, relief.position[3 * i + 2]).applyQuaternion(q);
        p.add(N.fromArray(foot.position));
        bvh.closestPointToPoint(p, hit);
        const corners = [0, 1, 2].map((k) => sorted[3 * hit.faceIndex + k]);
        [a, b, c].forEach((corner, k) => corner.fromArray(position, 3 * corners[k]));
        barycentric(hit.point, a, b, c, w);
        [a, b, c].forEach((corner, k) => corner.fromArray(vertexNormals, 3 * corners[k]));
        a.multiplyScalar(w.x).addScaledVector(b, w.y).addScaledVector(c, w.z).normalize();
        hit.point.addScaledVector(a, relief.position[3 * i + 1]).toArray(out, 3 * i);
        a.toArray(turned, 3 * i);
      }
      return [out, turned];
    },
  });
}

/** A square net of so many vertices a side, with heights, as a mesh with normals. */
function gridOf(side: number, wide: number, high: (u: number, v: number) => number): TriangleMesh {
  const position = new Float32Array(3 * side * side);
  const normal = new Float32Array(3 * side * side);
  const index = new Uint32Array(6 * (side - 1) * (side - 1));
  for (let j = 0, i = 0, o = 0; j < side; j++)
    for (let k = 0; k < side; k++, i++) {
      const [u, v] = [k / (side - 1), j / (side - 1)];
      position.set([wide * (0.5 - u), high(u, v), wide * (v - 0.5)], 3 * i);
      normal[3 * i + 1] = 1;
      if (j + 1 === side || k + 1 === side) continue;
      index.set([i, i + side, i + side + 1, i, i + side + 1, i + 1], o);
      o += 6;
    }
  return { position, index, attributes: [{ name: "NORMAL", width: 3, array: normal }] };
}

const [v0, v1, v2] = [new Vector3(), new Vector3(), new Vector3()];

function barycentric(p: Vector3, a: Vector3, b: Vector3, c: Vector3, out: Vector3): void {
  v0.subVectors(c, a);
  v1.subVectors(b, a);
  v2.subVectors(p, a);
  const [d00, d01, d02, d11, d12] = [v0.dot(v0), v0.dot(v1), v0.dot(v2), v1.dot(v1), v1.dot(v2)];
  const whole = d00 * d11 - d01 * d01 || 1;
  const [u, v] = [(d11 * d02 - d01 * d12) / whole, (d00 * d12 - d01 * d02) / whole];
  out.set(1 - u - v, v, u);
}
