/** The catch of the day: a mackerel, and the basket in which they stand on their tails, no two baskets alike. */
import { addedKey, hexOf } from "@/core/place";
import { hex, MeshBuilder, type Paint } from "./shapes";
import { RAD, turnedAboutUp } from "./turns";

/** A mackerel 0.34 m long, standing on its tail. */
export function mackerel(): MeshBuilder {
  const back: Paint = { color: hex("#3f6f86"), roughness: 0.35 };
  const belly: Paint = { color: hex("#e6ecea"), roughness: 0.3 };
  const fin: Paint = { color: hex("#2e5568"), roughness: 0.5, doubleSided: true };
  return new MeshBuilder()
    .lathe(
      belly,
      [
        [0, 0.05],
        [0.014, 0.06],
        [0.036, 0.16],
        [0.04, 0.22],
      ],
      10,
    )
    .lathe(
      back,
      [
        [0.04, 0.22],
        [0.034, 0.28],
        [0.018, 0.325],
        [0, 0.34],
      ],
      10,
    )
    .polygon(fin, [
      [0, 0.065, 0],
      [-0.042, 0, 0],
      [0, 0.028, 0],
      [0.042, 0, 0],
    ])
    .polygon(fin, [
      [0, 0.24, -0.036],
      [0, 0.2, -0.068],
      [0, 0.16, -0.034],
    ]);
}

/** A cane basket with its catch, kept as one prop. */
export const BASKET_OF_CATCH = {
  id: "basket-of-catch",
  name: "Basket of catch",
  asset: null,
  bounds: { min: [-0.24, 0, -0.24], max: [0.24, 0.54, 0.24] },
  triangles: 0,
  prepared: { footprint: [0.42, 0.42] },
  assembly: {
    each: "varied",
    lines: [
      { id: "catch-rim", name: "Rim", number: 1, kind: "circle", radius: 0.125, knots: [{ position: [0, 0.06, 0] }] },
    ],
    dressings: [
      {
        id: "the-basket",
        name: "Basket",
        where: { kind: "loose" },
        what: { entries: [] },
        pegs: { [hexOf(addedKey(0))]: { on: "loose", point: [0, 0, 0], prop: "cane-basket", added: true } },
      },
      {
        id: "the-catch",
        name: "Catch",
        where: { lines: ["catch-rim"] },
        what: { entries: [{ prop: "mackerel" }] },
        spacing: { by: "count", count: 4 },
        stance: { forward: "outward", turnAcross: 12 * RAD },
        variation: {
          seed: 5,
          positionOn: true,
          along: [-0.012, 0.012],
          across: [-0.01, 0.01],
          up: [-0.03, 0.05],
          ...turnedAboutUp(0.2),
          turnAlong: [-0.16, 0.16],
          sizeOn: true,
          size: [0.85, 1.05],
        },
        gaps: { chance: 0.12 },
      },
    ],
  },
};
