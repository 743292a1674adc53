import { readdirSync, readFileSync } from "node:fs";
import fc from "fast-check";
import { curveOf, lineSchema, type Line } from "../../line";
import { evenly } from "../../math/testing";
import { linesOfDrawing, readSvg, type DrawingPlace } from ".";

const bytes = (text: string) => new TextEncoder().encode(text);
const svg = (content: string, own = 'viewBox="0 0 100 100"') =>
  readSvg(bytes(`<svg xmlns="http://www.w3.org/2000/svg" ${own}>${content}</svg>`), "crest.svg");
/** On the level, a unit a metre. */
const asLine = (outline: ReturnType<typeof linesOfDrawing>[number]): Line =>
  lineSchema.parse({ ...outline, id: "outline", number: 1, name: "Outline" });
const level = (unit: number): DrawingPlace => ({
  middle: [0, 0, 0],
  right: [1, 0, 0],
  down: [0, 0, 1],
  scale: 1 / unit,
});
const curvesOf = (content: string, own?: string) => {
  const drawing = svg(content, own);
  return linesOfDrawing(drawing, "crest.svg", level(drawing.unit)).map((line) => curveOf(asLine(line)));
};

/** The length of a piece of an ellipse by Simpson's rule. */
function lengthOfArc(rx: number, ry: number, from: number, to: number, n = 4000): number {
  const speed = (t: number) => Math.hypot(rx * Math.sin(t), ry * Math.cos(t));
  let sum = 0;
  for (let i = 0; i <= n; i++) sum += (i === 0 || i === n ? 1 : i % 2 ? 4 : 2) * speed(from + ((to - from) * i) / n);
  return (sum * (to - from)) / (3 * n);
}

test("arcs are pieces of ellipses, whatever turns, sizes and skews them: as long, and each point on them", () => {
  fc.assert(
    fc.property(
      evenly(0.5, 20),
      evenly(0.5, 20),
      evenly(0, 6),
      evenly(0.2, 6.2),
      evenly(-180, 180),
      (rx, ry, start, sweep, turn) => {
        const at = (t: number) => `${rx * Math.cos(t)} ${ry * Math.sin(t)}`;
        const arc = `M${at(start)}A${rx} ${ry} 0 ${sweep > Math.PI ? 1 : 0} 1 ${at(start + sweep)}`;
        const [curve] = curvesOf(`<g transform="rotate(${turn})"><path d="${arc}"/></g>`);
        const off = curve.length - lengthOfArc(rx, ry, start, start + sweep);
        expect(Math.abs(off) / Math.max(rx, ry)).toBeLessThan(1e-9);
        const [skewed] = curvesOf(`<path transform="skewX(30) scale(2 0.5)" d="${arc}"/>`);
        const tan = Math.tan(Math.PI / 6);
        const P = new Float64Array(3 * 50);
        skewed.sample(
          Float64Array.from({ length: 50 }, (_, i) => (skewed.length * i) / 50),
          50,
          P,
          null,
        );
        for (let p = 0; p < P.length; p += 3) {
          const [px, y] = [P[p] + 50, P[p + 2] + 50];
          const [x, v] = [(px - tan * y) / 2, y / 0.5];
          expect(Math.hypot(x / rx, v / ry)).toBeCloseTo(1, 8);
        }
      },
    ),
    { numRuns: 40 },
  );
});

test("all commands of paths and all shapes become lines of the length that they have", () => {
  const one = (content: string) => curvesOf(content).map(({ length, closed }) => [Number(length.toFixed(6)), closed]);
  expect(one('<path d="m10 10 l30 40 h-10 V10 z"/>')).toEqual([[50 + 10 + 40 + 20, true]]);
  expect(one('<path d="M0 0C10 0 20 0 30 0S50 0 60 0Q70 0 80 0T100 0"/>')).toEqual([[100, false]]);
  expect(one('<rect x="5" y="5" width="30" height="20"/>')).toEqual([[100, true]]);
  const round = 2 * (30 - 8) + 2 * (20 - 8) + 2 * Math.PI * 4;
  expect(one('<rect width="30" height="20" rx="4"/>')).toEqual([[Number(round.toFixed(6)), true]]);
  expect(one('<circle cx="9" cy="9" r="7"/>')).toEqual([[Number((14 * Math.PI).toFixed(6)), true]]);
  const knots = (d: string) =>
    linesOfDrawing(svg(`<path d="${d}"/>`), "a.svg", level(1)).map((one) => one.knots.length);
  expect([knots("M0 0L3 0L3 4Z"), knots("M0 0A5 5 0 0 1 10 0A5 5 0 0 1 0 0Z"), knots("M0 0C10 9 20 9 30 0L0 0Z")]).toEqual([[3], [4], [4]]); // prettier-ignore
  // A leaf of two pieces, and two arcs that meet.
  expect(one('<path d="M0 0C10 0 20 0 30 0L0 0Z"/>')).toEqual([[60, true]]);
  expect(one('<path d="M0 0A5 5 0 0 1 10 0A5 5 0 0 1 0 0"/>')).toEqual([[Number((10 * Math.PI).toFixed(6)), false]]);
  expect(one('<polyline points="0,0 3,4 3,10"/><polygon points="0 0 3 0 3 4"/>')).toEqual([[11, false], [12, true]]); // prettier-ignore
  expect(one('<line x1="1" y1="1" x2="4" y2="5"/><path d="M0 0"/><path d="M0 0A0 5 0 0 1 9 0"/>')).toEqual([[5, false], [9, false]]); // prettier-ignore
  expect(one('<path d="M1 1L1 1"/><path d="oh no"/><rect width="-3" height="2"/>')).toEqual([]);
});

test("sizes are as the file says in its units, holes by the fill rule, parts keep their names, and the rest is named", () => {
  const size = (own: string) => {
    const { width, height } = svg('<circle r="3"/>', own);
    return [width, height].map((one) => Number(one.toFixed(6)));
  };
  expect(size('width="12cm" height="60mm" viewBox="0 0 200 100"')).toEqual([0.12, 0.06]);
  expect(size('width="96" height="96" viewBox="0 0 10 10"')).toEqual([0.0254, 0.0254]);
  expect(size('width="100%" viewBox="0 0 96 192"')).toEqual([0.0254, 0.0508]);
  expect(size("")).toEqual([6, 6].map((one) => Number(((one * 0.0254) / 96).toFixed(6))));
  const ring = "M0 0H9V9H0ZM3 3H6V6H3Z";
  const holes = (content: string) => svg(content).outlines.map(({ part, hole }) => [part, hole]);
  expect(holes(`<g fill-rule="evenodd"><path id="ring" d="${ring}"/></g>`)).toEqual([["ring/1", false], ["ring/2", true]]); // prettier-ignore
  expect(holes(`<path d="${ring}"/>`)).toEqual([["1/1", false], ["1/2", false]]); // prettier-ignore
  expect(holes('<path d="M0 0H9V9H0ZM3 3V6H6V3Z"/>')).toEqual([["1/1", false], ["1/2", true]]); // prettier-ignore
  const twice = '<path id="a" d="M0 0H9"/><path id="a" d="M0 0H8"/>';
  expect(svg(twice).outlines.map(({ part }) => part)).toEqual(["a", "a~2"]);
  const nested = svg('<g transform="translate(10 0)"><path transform="scale(2)" d="M0 0H3V1"/></g>').outlines[0];
  expect([nested.start, nested.segments[0].to]).toEqual([[10, 0], [16, 0]]); // prettier-ignore
  const odd = '<text>Regatta</text><defs><path d="M0 0H9"/></defs><image/><g display="none"><path d="M0 0H9"/></g>';
  expect(svg(odd)).toMatchObject({ outlines: [], unread: ["text", "pictures"] });
  expect(() => readSvg(bytes("<svg><g></svg>"), "a.svg")).toThrow("“a.svg” is no SVG that can be read");
  expect(() => readSvg(bytes("<html></html>"), "a.svg")).toThrow("it has no svg element");
  expect(() => svg("<g>".repeat(80) + "</g>".repeat(80))).toThrow("nested too deeply");
  const bomb = '<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;">]><svg><path d="M0 0H&b;"/></svg>';
  expect(readSvg(bytes(bomb), "b.svg").outlines).toEqual([]);
});

test("icons of a large set are read, all of it finite", () => {
  const folder = "node_modules/lucide-static/icons";
  let outlines = 0;
  const files = readdirSync(folder).filter((_, k) => k % 8 === 0);
  for (const file of files) {
    const drawing = readSvg(readFileSync(`${folder}/${file}`), file);
    expect(drawing.unread).toEqual([]);
    for (const line of linesOfDrawing(drawing, file, level(drawing.unit)))
      expect(curveOf(asLine(line)).length).toBeGreaterThan(0);
    outlines += drawing.outlines.length;
  }
  expect(outlines).toBeGreaterThan(2 * files.length);
});
