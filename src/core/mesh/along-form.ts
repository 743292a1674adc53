/** Things that go along with what is bent, each as a whole: where they come to stand, and how they are turned. */
import { writeFromBasis } from "../math";
import { Piece } from "./piece";
import { BentWay } from "./shape";
import { pieceOf, SAMPLE, samplesOf, type Shapes } from "./shapes";

/** Frames in that of a form's entries: position (3, metres) and rotation (quaternion, 4) of each, 3n and 4n. */
export interface Carried {
  position: Float64Array;
  rotation: Float64Array;
}

/** @param places in the form's frame before it is bent, metres: 3n */
export type AlongForm = (places: Float64Array) => Carried;

/** How a form carries what stands on it; null where it bends nothing. */
export function alongForm(shapes: Shapes, form: number): AlongForm | null {
  const piece = pieceOf(shapes, form);
  if (piece.length > 0) {
    const bent = new Piece(piece);
    return (places) => {
      const n = places.length / 3;
      const position = bent.carry(places);
      const up = bent.turnedNormals(repeated([0, 1, 0], n), 3);
      const ahead = bent.turnedTangents(repeated([0, 0, 1], n), 3);
      return { position, rotation: framesOf(up, ahead) };
    };
  }
  if (samplesOf(shapes, form) === 0) return null;
  const way = new BentWay(shapes.samples.subarray(SAMPLE * shapes.sampleAt[form], SAMPLE * shapes.sampleAt[form + 1]));
  return (places) => {
    const n = places.length / 3;
    const [up, ahead] = [new Float32Array(3 * n), new Float32Array(3 * n)];
    const position = new Float64Array(3 * n);
    for (let p = 0; p < 3 * n; p += 3) {
      way.goTo(places[p], places[p + 1], places[p + 2]);
      position.set(way.position, p);
      way.turn(up, p, 0, 1, 0);
      way.turn(ahead, p, 0, 0, 1);
    }
    return { position, rotation: framesOf(up, ahead) };
  };
}

function repeated(direction: readonly number[], n: number): Float32Array {
  return Float32Array.from({ length: 3 * n }, (_, c) => direction[c % 3]);
}

/** Turns with these ups, and as near to these ways ahead as that allows. */
function framesOf(up: Float32Array, ahead: Float32Array): Float64Array {
  const rotation = new Float64Array((4 * up.length) / 3);
  for (let i = 0; 3 * i < up.length; i++) {
    const p = 3 * i;
    const [ux, uy, uz] = [up[p], up[p + 1], up[p + 2]];
    let [lx, ly, lz] = [
      uy * ahead[p + 2] - uz * ahead[p + 1],
      uz * ahead[p] - ux * ahead[p + 2],
      ux * ahead[p + 1] - uy * ahead[p],
    ];
    const long = Math.hypot(lx, ly, lz) || 1;
    [lx, ly, lz] = [lx / long, ly / long, lz / long];
    writeFromBasis(rotation, i, lx, ly, lz, ux, uy, uz, ly * uz - lz * uy, lz * ux - lx * uz, lx * uy - ly * ux);
  }
  return rotation;
}
