/** A hilly terrain of 200,000 triangles, 400 m across, for the rows that have to do with surfaces. */
import { BufferAttribute, BufferGeometry } from "three";
import { WorldMesh, type TriangleMesh } from "../src/core/mesh";

const SIDE = 317;
export const METRES = 400;

const height = (x: number, z: number): number =>
  9 * Math.sin(0.031 * x + 1) + 6 * Math.cos(0.043 * z) + 1.3 * Math.sin(0.21 * x + 0.17 * z) + 0.4 * Math.cos(0.7 * z);

function terrain(): TriangleMesh {
  const position = new Float32Array(3 * (SIDE + 1) ** 2);
  const index = new Uint32Array(6 * SIDE ** 2);
  for (let i = 0, p = 0; i <= SIDE; i++) {
    for (let j = 0; j <= SIDE; j++, p += 3) {
      const [x, z] = [(i / SIDE - 0.5) * METRES, (j / SIDE - 0.5) * METRES];
      position.set([x, height(x, z), z], p);
    }
  }
  for (let i = 0, o = 0; i < SIDE; i++) {
    for (let j = 0; j < SIDE; j++, o += 6) {
      const a = i * (SIDE + 1) + j;
      index.set([a, a + 1, a + SIDE + 2, a, a + SIDE + 2, a + SIDE + 1], o);
    }
  }
  return { position, index, attributes: [] };
}

const mesh = terrain();

export const TRIANGLES = mesh.index.length / 3;

export const ground = (): WorldMesh =>
  WorldMesh.of("terrain", mesh, { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: 1 });

export function geometry(): BufferGeometry {
  const made = new BufferGeometry();
  made.setAttribute("position", new BufferAttribute(mesh.position.slice(), 3));
  made.setIndex(new BufferAttribute(mesh.index.slice(), 1));
  return made;
}

/** Places over the terrain (3n, metres) in the order of placements: along one wavy line after the other, over all of it. */
export function placesAlongLines(n: number): Float64Array {
  const places = new Float64Array(3 * n);
  const each = Math.round(Math.sqrt(n));
  const room = 0.98 * METRES;
  for (let i = 0; i < n; i++) {
    const [line, share] = [Math.floor(i / each), (i % each) / each];
    places[3 * i] = (share - 0.5) * room;
    places[3 * i + 1] = 40;
    places[3 * i + 2] = ((line + 0.5 + 0.4 * Math.sin(9 * share + line)) / (n / each) - 0.5) * room;
  }
  return places;
}
