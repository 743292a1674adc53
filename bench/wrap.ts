/**
 * `wrap-1m`: a million vertices carried over a curved surface with their normals, by the surface as it is laid flat, against
 * looking for each vertex's nearest point with three-mesh-bvh, which is what one would otherwise write: the same positions and
 * normals at its end, bent by hand onto a rough copy first.
 */
import { BufferAttribute, BufferGeometry, Vector3 } from "three";
import { MeshBVH } from "three-mesh-bvh";
import { PIECE, Piece } from "../src/core/mesh";
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
