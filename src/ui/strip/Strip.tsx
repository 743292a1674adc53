"use client";
/** The strip: a dressing's lines unrolled, as the second place to work. */
import { sizeOf, type PropBounds } from "@/core/mesh";
import { useEffect, useMemo, useRef, useState } from "react";
import { type Dressing, type Placements } from "@/core/place";
import { preparedBounds } from "@/core/scene";
import { useScene } from "@/store";
import { elevationOf, lookOf, useElevations, usePictureStore } from "../assets";
import { sideFrames } from "./elevation";
import { Legend } from "../basket";
import { Segmented, useSize, useTableColours } from "../kit";
import { guideOf, lineName, lineRunning, startsAnywhere, useFindings, useSession } from "../state";
import { drawStrip } from "./draw";
import type { Aspect, StripScene } from "./layout";
import { Spread } from "./Spread";
import { fitted, rowBoxes, rowsOf, scaleOfRacks, tallestOf, type StripView } from "./model";
import { StripHands } from "./hands";

export function Strip({ dressing, placements }: { dressing: Dressing; placements: Placements }) {
  const rows = useMemo(() => rowsOf(placements), [placements]);
  return (
    <>
      <Spread key={dressing.id} dressing={dressing} placements={placements} rows={rows} />
      <StripCanvas dressing={dressing} placements={placements} rows={rows} />
      <Legend dressing={dressing} placements={placements} />
    </>
  );
}

/** The mark in the browser's timeline when placements have been drawn for the first time. */
/** So many poses are drawn at once, fewer than pictures are kept; what goes beyond them is drawn as blocks. */
const MOST_POSES = 400;
/** What is drawn of a prop that is not known. */
const LINEN = "#d8cbb3";
const NO_BOX: PropBounds = { min: [0, 0, 0], max: [0, 0, 0] };

const DRAWN = "strip drawn";

function StripCanvas({
  dressing,
  placements,
  rows,
}: {
  dressing: Dressing;
  placements: Placements;
  rows: ReturnType<typeof rowsOf>;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width, height } = useSize(frame);
  const lines = useScene((scene) => scene.lines);
  const props = useScene((scene) => scene.props);
  const pictures = usePictureStore((state) => state.pictures);
  // Pictures that have been made since are drawn.
  const elevations = useElevations((state) => state.pictures);
  const dark = useTableColours((table) => table.dark);
  const findings = useFindings(dressing.id);
  const selected = useSession((session) => session.keys);
  const hovered = useSession((session) => (session.hover?.dressing === dressing.id ? session.hover.key : null));
  const [zoomed, setZoomed] = useState<StripView | null>(null);
  const [stretch, setStretch] = useState<StripScene["stretch"]>(null);
  const [aspect, setAspect] = useState<Aspect>("front");
  const [gap, setGap] = useState<number | null>(null);
  const [caught, setCaught] = useState<StripScene["caught"]>(null);

  const longest = Math.max(...rows.map((row) => row.length), 0);
  /** The poses that are asked for while the strip is drawn. */
  const asked = useRef(new Set<string>());
  const heights = useMemo(
    () =>
      placements.props.map((id) => {
        const prop = props.find((one) => one.id === id);
        return prop ? sizeOf(preparedBounds(prop))[1] : 0;
      }),
    [placements.props, props],
  );
  const tallest = useMemo(
    () => tallestOf(placements, rows, heights, aspect === "plan"),
    [placements, rows, heights, aspect],
  );
  const racks = placements.stacked !== null;
  // A rack is shown as high as it is long, so all of it has to go in both ways.
  const view = zoomed ?? fitted(longest, width, racks ? scaleOfRacks(tallest, height) : undefined);
  const boxes = useMemo(
    () =>
      rowBoxes(
        tallest.map((metres) => metres * view.scale),
        height,
        racks,
      ),
    [tallest, view.scale, height, racks],
  );
  const tall = Math.max(height, boxes.length > 0 ? boxes[boxes.length - 1].top + boxes[boxes.length - 1].height : 0);

  const scene = useMemo((): StripScene => {
    const own = placements.props.map((id) => props.find((prop) => prop.id === id));
    return {
      dressing,
      placements,
      aspect,
      rows,
      boxes,
      names: rows.map((row) => {
        const name = lineName(row.line) ?? "";
        return row.rows > 1 ? `${name} · row ${row.row + 1}` : name;
      }),
      movable: rows.map((row) => {
        const line = lineRunning(lines, row.line);
        return line !== undefined && startsAnywhere(line);
      }),
      marks: rows.map((row) => {
        const line = lineRunning(lines, row.line);
        return line ? guideOf(line).marks : [];
      }),
      orphans: placements.orphans.flatMap((key) => {
        const peg = dressing.pegs[key];
        const row = peg ? rows.findIndex(({ line }) => line === peg.on) : -1;
        return peg?.at !== undefined && row >= 0 ? [{ row, at: peg.at }] : [];
      }),
      gap,
      caught,
      colours: own.map((prop) => (prop && pictures.get(lookOf(prop))?.color) ?? LINEN),
      bounds: own.map((prop) => (prop ? preparedBounds(prop) : NO_BOX)),
      heights,
      frames: (row, at) => {
        const line = lineRunning(lines, rows[row].line);
        return line ? sideFrames(guideOf(line), dressing.stance, at) : null;
      },
      elevation: (index, { turn, mirrored, key }) => {
        const prop = own[index];
        if (!prop) return undefined;
        const poses = asked.current.add(`${index} ${key}`);
        return poses.size > MOST_POSES ? null : elevationOf({ prop, turn, mirrored }, key);
      },
      findings,
      selected,
      hovered,
      stretch,
    };
  }, [
    dressing,
    placements,
    aspect,
    rows,
    boxes,
    heights,
    lines,
    props,
    pictures,
    findings,
    selected,
    hovered,
    stretch,
    gap,
    caught,
  ]);

  const marked = useRef<Placements | null>(null);
  useEffect(() => {
    const element = canvas.current;
    if (!element || width === 0) return;
    const ratio = window.devicePixelRatio;
    element.width = Math.round(width * ratio);
    element.height = Math.round(tall * ratio);
    const pen = element.getContext("2d")!;
    asked.current.clear();
    pen.setTransform(ratio, 0, 0, ratio, 0, 0);
    drawStrip(pen, width, tall, scene, view);
    if (marked.current !== scene.placements) performance.mark(DRAWN, { detail: scene.placements.count });
    marked.current = scene.placements;
  }, [scene, view, width, tall, elevations, dark]);

  const hands = useRef<StripHands | null>(null);
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    hands.current = new StripHands(element, { setView: setZoomed, setStretch, setGap, setCaught });
    return () => hands.current?.release();
  }, []);
  useEffect(() => {
    if (hands.current) hands.current.sight = { scene, view, width, longest };
  });

  const shown = placements.count - placements.blanks;
  return (
    <div ref={frame} className="relative min-w-0 overflow-y-auto overflow-x-hidden">
      <canvas
        ref={canvas}
        tabIndex={0}
        role="application"
        aria-label={`Strip of ${dressing.name}: ${shown} of ${placements.count} slots have a prop. Arrow keys select, Alt with arrow keys moves, Delete leaves blank, G holds a stretch open where the selection is.`}
        data-testid="strip"
        data-drawn={width > 0}
        className="block touch-none"
        style={{ width, height: tall }}
      />
      {placements.stacked && (
        <div className="absolute right-2 top-7 w-32">
          <Segmented
            label="Rack seen from"
            help="From its front, or from above. Up and down arrows go up and down a stack, or back and forth in a column."
            value={aspect}
            choices={{ front: "Front", plan: "Plan" }}
            onChange={setAspect}
          />
        </div>
      )}
      {zoomed && (
        <button
          type="button"
          onClick={() => setZoomed(null)}
          className="absolute bottom-1.5 right-2 rounded-md border border-linen-2 bg-linen-0 px-2 py-0.5 text-[11px] text-ink-6 hover:bg-linen-1"
        >
          Show all of it
        </button>
      )}
      {rows.length === 1 && !zoomed && (
        <p className="pointer-events-none absolute bottom-1.5 left-7 flex gap-6 whitespace-nowrap text-[11px] text-ink-6">
          <span>Drag a prop to peg it, with Alt to copy it</span>
          <span>Drag beside props to hold a stretch open</span>
          <span>Drop a prop to swap</span>
          <span>Wheel to zoom</span>
        </p>
      )}
    </div>
  );
}
