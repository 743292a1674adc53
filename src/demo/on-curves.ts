/** The dressings of the demo scene that travel, ride on something, or are carried by curved surfaces. */
import { addedKey, hexOf } from "@/core/place";
import { RAD, turnedAboutUp } from "./turns";

export const ON_CURVES = [
  {
    id: "cable-baskets",
    name: "Cable baskets",
    where: { lines: ["cable"] },
    what: { entries: [{ prop: "cane-basket" }] },
    spacing: { distance: 2.4, fromStart: 1, fromEnd: 1, onceIn: 48 },
    stance: { meetsUp: "top", up: "plumb", turnUp: 90 * RAD },
  },
  {
    id: "hill-paving",
    name: "Hill paving",
    where: {
      kind: "patch",
      surfaces: ["hillside"],
      patch: {
        layout: { columns: 6, rows: 7, across: 0.68, along: 0.46, stagger: 0.5 },
        handle: [-26.4, 2, 7.6],
        turn: 25 * RAD,
      },
    },
    what: { entries: [{ prop: "paver" }] },
    stance: { up: "normal", meetsUp: "pivot" },
    variation: { seed: 3, ...turnedAboutUp(2 * RAD) },
  },
  {
    id: "buoy-studs",
    name: "Buoy studs",
    where: {
      kind: "wrapped",
      surfaces: ["mooring-buoy"],
      patch: { layout: { by: "number", columns: 20, rows: 12, stagger: 0.5, foot: 1, top: 1 } },
    },
    what: { entries: [{ prop: "brass-stud" }] },
    stance: { up: "normal", meetsUp: "bottom" },
    fit: { up: -0.004 },
  },
  {
    id: "cap-shingles",
    name: "Cap shingles",
    where: {
      kind: "wrapped",
      surfaces: ["lighthouse-cap"],
      patch: { layout: { by: "number", columns: 24, rows: 9, stagger: 0.5 } },
    },
    what: { entries: [{ prop: "shingle" }] },
    stance: { up: "normal", meetsUp: "pivot" },
    fit: { bend: true },
    variation: { seed: 5, tintOn: true, tintFrom: "#ffffff", tintTo: "#d0a898" },
  },
  {
    id: "float-crest",
    name: "Float crest",
    where: { kind: "pinned", surfaces: ["crest-float"] },
    what: { entries: [{ prop: "crest" }] },
    stance: { up: "normal", forward: "downhill", turnUp: Math.PI, meetsUp: "bottom" },
    fit: { bend: true },
    pegs: Object.fromEntries(
      [
        [0.24, 0.8, 0.34],
        [-0.34, 0.8, 0.24],
        [-0.24, 0.8, -0.34],
        [0.34, 0.8, -0.24],
      ].map((point, i) => [hexOf(addedKey(i + 1)), { on: "crest-float", point, prop: "crest", added: true }]),
    ),
  },
  {
    id: "barrel-name",
    name: "Barrel's name",
    where: {
      kind: "wrapped",
      surfaces: ["barrel"],
      wrap: { right: -0.385 },
      patch: { layout: { by: "both", columns: 9, rows: 1, across: 0.17, along: 0.2 } },
    },
    what: { entries: [..."gullhaven"].map((name) => ({ prop: `letter-${name}` })) },
    stance: { up: "normal", meetsUp: "bottom" },
    fit: { bend: true },
  },
  {
    id: "pot-rings",
    name: "Pot rings",
    where: {
      kind: "wrapped",
      surfaces: ["pot-bell"],
      patch: { layout: { by: "number", columns: 10, rows: 5, stagger: 0.5, foot: 1, top: 1 } },
    },
    what: { entries: [{ prop: "pot-ring" }] },
    stance: { up: "normal", meetsUp: "centre" },
    fit: { bend: true },
  },
  {
    id: "sail-badges",
    name: "Sail badges",
    where: { kind: "pinned", surfaces: ["petrel-sail"] },
    what: { entries: [{ prop: "star-badge" }] },
    stance: { up: "normal", forward: "v" },
    fit: { up: 0.035 },
    pegs: Object.fromEntries(
      (
        [
          ["sail-number", 0.55, 0.36, 1.1],
          ["star-badge", 0.66, 0.62, 1],
          ["star-badge", 0.72, 0.76, 0.75],
          ["star-badge", 0.3, 0.12, 0.9],
        ] as const
      ).map(([prop, u, v, size], i) => [
        hexOf(addedKey(i + 1)),
        { on: "petrel-sail", uv: [u, v], prop, size, added: true },
      ]),
    ),
  },
  {
    id: "leech-lamps",
    name: "Leech lamps",
    where: { lines: ["leech"] },
    what: { entries: [{ prop: "lantern" }], own: [{ prop: "lantern", size: 0.45 }] },
    spacing: { distance: 0.55, fromStart: 0.4, fromEnd: 0.4 },
    stance: { meetsUp: "top", up: "plumb" },
  },
  {
    id: "belt-catch",
    name: "Belt goods",
    where: { kind: "over", surfaces: ["market-belt"] },
    what: { entries: [{ prop: "basket-of-catch" }, { prop: "crate" }], own: [{ prop: "crate", size: 0.62 }] },
    spacing: { pattern: "uv", distance: 0.95 },
    stance: { up: "normal", forward: "uv" },
  },
  {
    id: "gull-flight",
    name: "Gull in flight",
    where: { lines: ["gull-round"] },
    what: { entries: [{ prop: "gull-flying" }] },
    spacing: { by: "list", list: [0], onceIn: 12 },
    stance: { meetsUp: "centre", banks: true, bankMost: 40 * RAD },
  },
  {
    id: "ducks",
    name: "Bobbing ducks",
    where: { lines: ["ducks-round"] },
    what: { entries: [{ prop: "duck" }] },
    spacing: { by: "count", count: 7, onceIn: 90 },
    stance: { meetsUp: "pivot" },
    variation: {
      seed: 12,
      positionOn: true,
      along: [-0.35, 0.35],
      across: [-0.35, 0.35],
      sizeOn: true,
      size: [0.85, 1.1],
      pose: "own",
    },
  },
];
