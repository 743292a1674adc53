"use client";
/** The scene's lines as cord, and the line being drawn. */
import { Line as FatLine } from "@react-three/drei";
import { useMemo } from "react";
import { smoothPreview } from "./preview";
import { drawnLine } from "./guides";
import { useDraw } from "./draw-state";
import { useScene } from "@/store";
import { useSession } from "../state/session";
import { Knots } from "./Knots";
import type { Line } from "@/core/line";

const CORD = "#6b5638";
const SEA = "#1e6f77";

export function Guides() {
  const lines = useScene((scene) => scene.lines);
  const dressings = useScene((scene) => scene.dressings);
  const selected = useSession((session) => session.dressing);
  const focus = useSession((session) => session.focus);
  const dressed = useMemo(
    () => new Set(dressings.find((dressing) => dressing.id === selected)?.where.lines),
    [dressings, selected],
  );
  return lines.map((line) => {
    const focused = focus.kind === "line" && focus.id === line.id;
    const lit = focused || (focus.kind === "dressing" && dressed.has(line.id));
    return (
      <group key={line.id}>
        <Cord line={line} lit={lit} />
        {focused && <LineKnots line={line} />}
      </group>
    );
  });
}

function Cord({ line, lit }: { line: Line; lit: boolean }) {
  const { points } = drawnLine(line);
  const lies = line.kind !== "hanging";
  if (points.length < 2) return null;
  return (
    <FatLine
      points={points as [number, number, number][]}
      color={lit ? SEA : CORD}
      lineWidth={lit ? 3 : 2}
      transparent
      opacity={lit ? 1 : lies ? 0.3 : 0.95}
      raycast={() => null}
    />
  );
}

function LineKnots({ line }: { line: Line }) {
  const knot = useSession((session) => session.knot);
  const positions = useMemo(() => line.knots.map((k) => k.position), [line]);
  return <Knots positions={positions} selected={knot} line={line} />;
}

/** What has been drawn so far, with the piece up to the pointer. */
export function DrawnSoFar() {
  const { knots, cursor, closing } = useDraw();
  const drawing = useSession((session) => session.tool === "draw");
  const points = useMemo(() => smoothPreview(knots, cursor, closing), [knots, cursor, closing]);
  if (!drawing) return null;
  return (
    <>
      {points.length > 1 && (
        <FatLine points={points as [number, number, number][]} color={SEA} lineWidth={3} raycast={() => null} />
      )}
      <Knots positions={cursor && !closing ? [...knots, cursor] : knots} selected={closing ? 0 : null} />
    </>
  );
}
