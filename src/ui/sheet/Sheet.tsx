"use client";
/** The sheet: what a dressing is spread over, seen from above, as the second place to work. */
import { useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import type { Line } from "@/core/line";
import { MOST_UNROLLED, type ChartTable } from "@/core/mesh";
import { add, rotate, scale, type Vec3 } from "@/core/math";
import { kindOf, type Dressing, type Placements } from "@/core/place";
import { placingBounds, type Surface } from "@/core/scene";
import { useScene } from "@/store";
import { lookOf, type Model, usePictureStore, useSurfaceModels, topView, tintOf } from "../assets";
import { Legend } from "../basket";
import { GapChart, Segmented, useSize, useTableColours } from "../kit";
import { useAtLeisure } from "../time";
import { drawnLine, middleOf, useCharted, useSession, type SheetBy } from "../state";
import { useBrush } from "../view";
import { Charts, pictureOf } from "./charts";
import { drawSheet } from "./draw";
import type { SheetScene } from "./sheet-scene";
import { RULER } from "./marks";
import { flatBox, flatCorners } from "./flat";
import { SheetHands } from "./hands";
import { fittedTo, footprintsOf, isShown, neighboursOf, type PlanBox, type SheetView } from "./model";

interface SheetProps {
  dressing: Dressing;
  placements: Placements;
}

interface LaidOut extends SheetProps {
  ways: Ways;
  by: SheetBy;
  /** The surfaces laid flat, where they are shown so. */
  charts: Charts | null;
}

export function Sheet({ dressing, placements }: SheetProps) {
  const ways = useWays(dressing);
  const by = useSheetBy(ways);
  const charts = useCharts(placements, by === "uv");
  const given = { dressing, placements, ways, by, charts };
  return (
    <>
      <Facts key={dressing.id} {...given} />
      <SheetCanvas key={`${dressing.id} ${by}`} {...given} />
      <Legend dressing={dressing} placements={placements} />
    </>
  );
}

/** The surfaces laid out by their UVs, where that is asked for and done. */
function useCharts(placements: Placements, wanted: boolean): Charts | null {
  const known = useCharted(({ surfaces }) => surfaces);
  const surfaces = useScene((scene) => scene.surfaces);
  return useMemo(() => (wanted ? Charts.of(placements, known, surfaces) : null), [placements, known, surfaces, wanted]);
}

/** How the sheet can lay a dressing out, and what each way is called. */
type Ways = Partial<Record<SheetBy, string>>;

/** What surfaces are laid flat by, in a word. */
const BY: Readonly<Record<ChartTable["by"], string>> = { uv: "By UVs", round: "By profile", unrolled: "Unrolled" };

function useWays(dressing: Dressing): Ways {
  const models = useOwnModels(dressing);
  const known = useCharted(({ surfaces }) => surfaces);
  const parts = models.flatMap(({ model }) => model.parts);
  const triangles = parts.reduce(
    (sum, { geometry: { index, attributes } }) => sum + (index ?? attributes.position).count / 3,
    0,
  );
  const byUvs = parts.every(({ geometry }) => geometry.attributes.uv);
  const laid = parts.length > 0 && (byUvs || triangles <= MOST_UNROLLED);
  const { laysOut, handled } = kindOf(dressing.where);
  const by = known.get(models[0]?.surface.id ?? "")?.table.by ?? (byUvs ? "uv" : "unrolled");
  const flat = laid && { uv: BY[by] };
  if (laysOut && !handled) return { ...flat, above: "Above" };
  return { ...(handled && { flat: "Flat" }), above: "Above", ...flat };
}

/** How it does: as was wished for last, where it can; else as comes first. */
const useSheetBy = (ways: Ways): SheetBy =>
  useSession(({ sheetBy }) => (sheetBy in ways ? sheetBy : (Object.keys(ways)[0] as SheetBy)));

const NO_MODELS: readonly { surface: Surface; model: Model }[] = [];

/** The surfaces of a dressing that are loaded. */
function useOwnModels({ where }: Dressing): readonly { surface: Surface; model: Model }[] {
  const surfaces = useScene((scene) => scene.surfaces);
  const own = useMemo(() => {
    const named = kindOf(where).onSurfaces ? where.surfaces : [];
    return surfaces.filter(({ id }) => named.includes(id));
  }, [surfaces, where]);
  const found = useSurfaceModels(own);
  return found.length > 0 ? found : NO_MODELS;
}

/** The boxes about the volumes that a dressing fills, as seen from above: the outlines of their four upright sides. */
function useSpaces({ where }: Dressing): Vec3[][] {
  const surfaces = useScene((scene) => scene.surfaces);
  const own = useMemo(
    () => (kindOf(where).fills ? surfaces.filter(({ id }) => where.volumes.includes(id)) : []),
    [surfaces, where],
  );
  const found = useSurfaceModels(own);
  return useMemo(
    () =>
      found.map(({ surface: { position, rotation, scale: size }, model: { box } }) => {
        const corner = (x: number, z: number): Vec3 => add(position, rotate(rotation, scale([x, box.min.y, z], size)));
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
function boxOf({ density, position, origin, count }: Placements, handled: boolean): PlanBox {
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

/** The outlines of a dressing, and the lines that its gaps count distances to, as they lie on the sheet. */
function linesOf(dressing: Dressing, lines: readonly Line[], onSheet: OnSheet): SheetScene["lines"] {
  const { areas, holes } = dressing.where;
  const minded = dressing.gaps.distances.map(({ to }) => to);
  return lines.flatMap((line) => {
    const kind = holes.includes(line.id) ? "hole" : areas.includes(line.id) ? "area" : null;
    if (!kind && !minded.includes(line.id)) return [];
    return onSheet(drawnLine(line).points).map((points) => ({ points, kind: kind ?? "line" }));
  });
}

/** Outlines as they lie in the layout of a patch that fills them; nothing of any other. */
function flatly({ where }: Dressing, lines: readonly Line[]): OnSheet {
  const { kind, middle } = where.patch.layout;
  if (kind !== "area") return () => [];
  const [x, z] = middle ?? middleOf(lines.filter(({ id }) => where.areas.includes(id)));
  return (points) => [points.map(([px, , pz]): Vec3 => [x - px, 0, z - pz])];
}

function SheetCanvas({ dressing, placements, ways, by, charts }: LaidOut) {
  const frame = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width, height } = useSize(frame);
  const dark = useTableColours((table) => table.dark);
  const props = useScene((scene) => scene.props);
  const allLines = useScene((scene) => scene.lines);
  const pictures = usePictureStore((state) => state.pictures);
  const selected = useSession((session) => session.keys);
  const hovered = useSession((session) => (session.hover?.dressing === dressing.id ? session.hover.key : null));
  const [moved, setView] = useState<SheetView | null>(null);
  const painting = useSession((session) => session.tool === "paint");
  const brush = useBrush();
  const [drawn, setDrawn] = useState<SheetScene["drawn"]>(null);
  // While a surface is dragged its picture may come after.
  const models = useDeferredValue(useOwnModels(dressing));
  const top = useMemo(() => (models.length > 0 ? topView(models) : null), [models]);
  // It is that of the shape at rest.
  const density = useAtLeisure(placements.density);
  const tint = useMemo(() => density && tintOf(density), [density]);
  const bounds = useMemo(() => new Map(props.map((prop) => [prop.id, placingBounds(prop)])), [props]);
  // Until it has been laid out flat it is seen from above.
  const laid = by === "flat" ? placements.laid : null;
  const corners = useMemo(
    () => charts?.footprints ?? (laid ? flatCorners(laid) : footprintsOf(placements, bounds)),
    [placements, bounds, charts, laid],
  );
  const chartPicture = useMemo(() => placements.charted && pictureOf(placements.charted), [placements.charted]);
  const view =
    moved ??
    fittedTo(
      charts ? charts.box : laid ? flatBox(placements, corners) : boxOf(placements, kindOf(dressing.where).handled),
      width - RULER,
      height - RULER,
    );

  const spaces = useSpaces(dressing);
  const scene = useMemo((): SheetScene => {
    return {
      placements,
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
      lines: [
        ...spaces.map((points) => ({ points, kind: "area" as const })),
        ...linesOf(
          dressing,
          allLines,
          laid ? flatly(dressing, allLines) : (points) => charts?.line(points) ?? [points],
        ),
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
    corners,
    props,
    pictures,
    top,
    tint,
    laid,
    charts,
    chartPicture,
    allLines,
    spaces,
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
        style={{ width, height }}
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

/** Left of the sheet: how many, how dense, and how far neighbours are apart. */
function Facts({ dressing, ways, by, charts, ...now }: LaidOut) {
  const placements = useAtLeisure(now.placements);
  const surfaces = useScene((scene) => scene.surfaces);
  const lines = useScene((scene) => scene.lines);
  const neighbours = useMemo(() => neighboursOf(placements), [placements]);
  const names = placements.fields.flatMap((id) => [...surfaces, ...lines].find((one) => one.id === id)?.name ?? []);
  const shown = useMemo(() => {
    let n = 0;
    for (let i = 0; i < placements.count; i++) if (isShown(placements, i)) n++;
    return n;
  }, [placements]);
  const free = useMemo(() => freeArea(placements), [placements]);
  const inside = !kindOf(dressing.where).onSurfaces;
  const many = Object.keys(ways).length > 1;
  return (
    <div className="min-w-0 overflow-hidden border-r border-linen-2 px-4 py-3 max-[959px]:hidden">
      <div className="flex items-center gap-2">
        <p className="min-w-0 grow truncate" title={names.join(", ")}>
          <b className="font-semibold">{names[0] ?? dressing.name}</b>
          <span className="text-ink-6">
            {names.length > 1 ? ` and ${names.length - 1} more` : ""}
            {many ? "" : " from above"}
          </span>
        </p>
        {many && (
          <div className={`shrink-0 text-[11px] ${Object.keys(ways).length > 2 ? "w-[172px]" : "w-[132px]"}`}>
            <Segmented
              label="How the sheet lays it flat"
              help="As its flat layout lies, seen from above, or laid out at real size: by its UVs, or unrolled where it has none."
              value={by}
              choices={ways as Record<SheetBy, string>}
              onChange={(sheetBy) => useSession.setState({ sheetBy })}
            />
          </div>
        )}
      </div>
      {neighbours ? (
        <>
          <GapChart bins={neighbours.bins} height={many ? 38 : 46} />
          <p className="font-mono text-xs text-ink-6">
            nearest {neighbours.least.toFixed(2)} – {neighbours.most.toFixed(2)} m · median{" "}
            {neighbours.median.toFixed(2)}
          </p>
        </>
      ) : (
        <p className="mt-2 text-xs text-ink-6">How far neighbours are apart shows here as soon as two props stand.</p>
      )}
      <p className="font-mono text-xs text-ink-6">
        {shown.toLocaleString("en")}
        {inside || by === "flat"
          ? " in all"
          : ` on ${free < 10 ? free.toFixed(1) : Math.round(free).toLocaleString("en")} m² of plan`}
      </p>
      {charts && (
        <p className="text-xs text-ink-6" data-testid="stretch">
          {stretchInWords(charts.stretch)}
        </p>
      )}
      <p className="mt-1 text-[11px] leading-snug text-ink-6">
        {by === "flat"
          ? "Drag a place to move it in the layout · drag beside them: box · "
          : inside
            ? "Drag a prop to peg it on its level · drag beside them: box · "
            : "Drag a prop to peg it · drag on free ground to hold a clearing open · Shift: box · "}
        Alt and click: one more · wheel to zoom, rulers to move
      </p>
    </div>
  );
}

/** Off by less than this it is called true to length. */
const TRUE = 0.005;

/** How true to length the sheet is, in words. */
function stretchInWords({ within, worst, where }: Charts["stretch"]): string {
  if (worst < TRUE) return "true to length";
  return `true within ${percent(within)}, worst ${percent(worst)} ${where}`;
}

const percent = (share: number): string => `${share < 0.0995 ? (100 * share).toFixed(1) : Math.round(100 * share)} %`;

/** How much of the plan is free for props, square metres; what is only half as full counts half. */
function freeArea({ density }: Placements): number {
  if (!density) return 0;
  const { least, most, columns, rows, share, height } = density;
  const cell = ((most[0] - least[0]) * (most[1] - least[1])) / (columns * rows);
  let free = 0;
  for (let i = 0; i < share.length; i++) if (!Number.isNaN(height[i])) free += share[i] * cell;
  return free;
}
