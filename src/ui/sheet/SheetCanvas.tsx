"use client";
/** The sheet itself: what a dressing is spread over, drawn flat, and worked on by hands. */
import { useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import type { Line } from "@/core/line";
import type { Vec3 } from "@/core/math";
import { fromStand } from "@/core/mesh";
import { kindOf, type Dressing, type Placements, type Sight } from "@/core/place";
import { placingBounds } from "@/core/scene";
import { useScene } from "@/store";
import { lookOf, usePictureStore, useSurfaceModels, useSurfacesMeant, topView, tintOf } from "../assets";
import { useSize, useTableColours } from "../kit";
import { useAtLeisure } from "../time";
import { useRunningLines, drawnLine, middleOf, seenLine, useSession } from "../state";
import { useBrush, useDraw } from "../view";
import { pictureOf, type Charts } from "./charts";
import { drawSheet } from "./draw";
import type { SheetKnot, SheetScene } from "./sheet-scene";
import { RULER } from "./marks";
import { useOwnModels, type LaidOut } from "./ways";
import { flatBox, flatCorners } from "./flat";
import { SheetHands } from "./hands";
import { fittedTo, footprintsOf, type PlanBox, type SheetView } from "./model";

/** The boxes about the volumes that a dressing fills, as seen from above: the outlines of their four upright sides. */
function useSpaces({ where }: Dressing): Vec3[][] {
  const named = kindOf(where).fills ? where.volumes : [];
  const found = useSurfaceModels(useSurfacesMeant(({ id }) => named.includes(id)));
  return useMemo(
    () =>
      found.map(({ surface, model: { box } }) => {
        const corner = (x: number, z: number): Vec3 => fromStand(surface, [x, box.min.y, z]);
        const { min, max } = box;
        return [
          corner(min.x, min.z),
          corner(max.x, min.z),
          corner(max.x, max.z),
          corner(min.x, max.z),
          corner(min.x, min.z),
        ];
      }),
    [found],
  );
}

/** What the sheet shows at first: all that things are spread over; of what has a handle, where it stands. */
function boxOf({ position, origin, count }: Placements, density: Sight["density"], handled: boolean): PlanBox {
  if (density && !(handled && count > 0)) return [density.least, density.most];
  if (count === 0) return [NO_BOX[0], NO_BOX[1]];
  let [x0, z0, x1, z1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < count; i++) {
    const [x, z] = [origin[0] + position[3 * i], origin[2] + position[3 * i + 2]];
    [x0, z0, x1, z1] = [Math.min(x0, x), Math.min(z0, z), Math.max(x1, x), Math.max(z1, z)];
  }
  const margin = Math.max(1, 0.1 * Math.max(x1 - x0, z1 - z0));
  return [
    [x0 - margin, z0 - margin],
    [x1 + margin, z1 + margin],
  ];
}

const NO_BOX: PlanBox = [
  [-5, -5],
  [5, 5],
];

type OnSheet = (points: readonly Vec3[]) => readonly (readonly Vec3[])[];

/** Whether a line lies on the surfaces that a dressing's charts are of. */
const liesOn = ({ laid }: Line, surfaces: readonly string[]): boolean =>
  laid?.kind === "surface" && laid.on.some((id) => surfaces.includes(id));

/** The knots of lines that lie on the charts. */
function knotsOf({ where }: Dressing, lines: readonly Line[], charts: Charts | null): SheetKnot[] {
  if (!charts) return [];
  return lines
    .filter((line) => liesOn(line, where.surfaces))
    .flatMap((line) =>
      seenLine(line).knots.map(({ position: point }, knot) => ({
        line: line.id,
        knot,
        at: charts.nearest(point),
        point,
      })),
    );
}

/** The outlines of a dressing, and the lines that its gaps count distances to, as they lie on the sheet. */
function linesOf(
  dressing: Dressing,
  lines: readonly Line[],
  charts: Charts | null,
  onSheet: OnSheet,
): SheetScene["lines"] {
  const { areas, holes, surfaces } = dressing.where;
  const minded = dressing.gaps.distances.map(({ to }) => to);
  return lines.flatMap((line) => {
    const kind = holes.includes(line.id) ? "hole" : areas.includes(line.id) ? "area" : null;
    // On charts those that lie on their surfaces show as well.
    const lies = charts && liesOn(line, surfaces);
    if (!kind && !lies && !minded.includes(line.id)) return [];
    return onSheet(drawnLine(line).points).map((points) => ({ points, kind: kind ?? "line" }));
  });
}

/** The line that is being drawn, up to the pointer. */
function useSketch(): readonly Vec3[] {
  const drawing = useSession((session) => session.tool === "draw");
  const { knots, cursor, closing } = useDraw();
  return useMemo(() => {
    const end = closing ? knots[0] : cursor;
    return drawing && end ? [...knots, end] : knots;
  }, [drawing, knots, cursor, closing]);
}

/** Outlines as they lie in the layout of a patch that fills them; nothing of any other. */
function flatly({ where }: Dressing, lines: readonly Line[]): OnSheet {
  const { kind, middle } = where.patch.layout;
  if (kind !== "area") return () => [];
  const [x, z] = middle ?? middleOf(lines.filter(({ id }) => where.areas.includes(id)));
  return (points) => [points.map(([px, , pz]): Vec3 => [x - px, 0, z - pz])];
}

/** What is known a moment later is waited for so long, milliseconds, rather than drawn twice. */
const MOMENT = 300;

/** Whether to wait for something that is not there yet: for a moment from when that is first so for a thing. */
function useWaits(id: string, isMissing: boolean): boolean {
  const [late, setLate] = useState<string | null>(null);
  useEffect(() => {
    if (!isMissing) return;
    const timer = setTimeout(() => setLate(id), MOMENT);
    return () => clearTimeout(timer);
  }, [id, isMissing]);
  return isMissing && late !== id;
}

export function SheetCanvas({ dressing, placements, sight, ways, by, charts }: LaidOut) {
  const frame = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width, height } = useSize(frame);
  const dark = useTableColours((table) => table.dark);
  const props = useScene((scene) => scene.props);
  const allLines = useRunningLines();
  const pictures = usePictureStore((state) => state.pictures);
  const selected = useSession((session) => session.keys);
  const hovered = useSession((session) => (session.hover?.dressing === dressing.id ? session.hover.key : null));
  const [moved, setView] = useState<SheetView | null>(null);
  const painting = useSession((session) => session.tool === "paint");
  const brush = useBrush();
  const [drawn, setDrawn] = useState<SheetScene["drawn"]>(null);
  // It is that of the shape at rest.
  const waits = useWaits(dressing.id, sight === null);
  const density = useAtLeisure(sight?.density ?? null);
  const tint = useMemo(() => density && tintOf(density), [density]);
  const bounds = useMemo(() => new Map(props.map((prop) => [prop.id, placingBounds(prop)])), [props]);
  // Until it has been laid out flat it is seen from above.
  const laid = (by === "flat" && sight?.laid) || null;
  // While a surface is dragged its picture may come after.
  const models = useDeferredValue(useOwnModels(dressing));
  const isFromAbove = !charts && !laid && models.length > 0;
  const top = useMemo(() => (isFromAbove ? topView(models) : null), [models, isFromAbove]);
  const corners = useMemo(
    () => charts?.footprints ?? (laid ? flatCorners(laid) : footprintsOf(placements, bounds)),
    [placements, bounds, charts, laid],
  );
  const charted = sight?.charted ?? null;
  const chartPicture = useMemo(() => charted && pictureOf(charted), [charted]);
  const view =
    moved ??
    fittedTo(
      charts
        ? charts.box
        : laid
          ? flatBox(placements, corners)
          : boxOf(placements, density, kindOf(dressing.where).handled),
      width - RULER,
      height - RULER,
    );

  const spaces = useSpaces(dressing);
  const stretched = useSession((session) => session.sheetStretch);
  const sketch = useSketch();
  const knots = useMemo(() => knotsOf(dressing, allLines, charts), [dressing, allLines, charts]);
  const scene = useMemo((): SheetScene => {
    return {
      placements,
      sight,
      corners,
      colours: placements.props.map((id) => {
        const prop = props.find((one) => one.id === id);
        return (prop && pictures.get(lookOf(prop))?.color) ?? "#b9a784";
      }),
      top,
      tint,
      flat: laid !== null,
      charts,
      chartPicture,
      stretched,
      knots,
      lines: [
        ...spaces.map((points) => ({ points, kind: "area" as const })),
        ...linesOf(
          dressing,
          allLines,
          charts,
          laid ? flatly(dressing, allLines) : (points) => charts?.line(points) ?? [points],
        ),
        ...(charts && sketch.length > 1
          ? charts.line(sketch).map((points) => ({ points, kind: "area" as const }))
          : []),
      ],
      selected,
      hovered,
      drawn:
        painting && brush.at
          ? {
              kind: "brush",
              middle: charts ? charts.nearest(brush.at) : [brush.at[0], brush.at[2]],
              radius: brush.radius,
              soft: brush.soft,
              puts: brush.puts,
            }
          : drawn,
    };
  }, [
    dressing,
    placements,
    sight,
    corners,
    props,
    pictures,
    top,
    tint,
    laid,
    charts,
    chartPicture,
    stretched,
    allLines,
    spaces,
    sketch,
    knots,
    selected,
    hovered,
    drawn,
    painting,
    brush,
  ]);

  useEffect(() => {
    const element = canvas.current;
    if (!element || width === 0) return;
    const ratio = window.devicePixelRatio;
    element.width = Math.round(width * ratio);
    element.height = Math.round(height * ratio);
    const pen = element.getContext("2d")!;
    pen.setTransform(ratio, 0, 0, ratio, 0, 0);
    drawSheet(pen, width, height, scene, view);
  }, [scene, view, width, height, dark]);

  const hands = useRef<SheetHands | null>(null);
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    hands.current = new SheetHands(element, { setView, setDrawn });
    return () => hands.current?.release();
  }, []);
  useEffect(() => {
    if (hands.current) hands.current.sight = { dressing, scene, view, width, height };
  });

  const shown = placements.count - placements.blanks;
  return (
    <div ref={frame} className="relative min-w-0 overflow-hidden">
      <canvas
        ref={canvas}
        tabIndex={0}
        role="application"
        aria-label={`Sheet of ${dressing.name}, ${charts ? `laid flat at real size: ${ways.uv}` : laid ? "as its flat layout lies, what is ahead at the top" : "seen from above, north at the top"}: ${shown} props. Arrow keys select, Alt with arrow keys moves, Delete leaves blank.`}
        data-testid="sheet"
        data-drawn={width > 0}
        className="absolute inset-0 block touch-none"
        style={{ width, height, opacity: waits ? 0 : 1 }}
      />
      {moved && (
        <button
          type="button"
          onClick={() => setView(null)}
          className="absolute bottom-1.5 right-2 rounded-md border border-linen-2 bg-linen-0 px-2 py-0.5 text-[11px] text-ink-6 hover:bg-linen-1"
        >
          Show all of it
        </button>
      )}
    </div>
  );
}
