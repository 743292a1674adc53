"use client";
/** The scene's lines as cord, with their marks, tags and rolls; knots and handles of the one in focus; the line being drawn. */
import { useEffect, useMemo } from "react";
import { BufferAttribute, BufferGeometry, DoubleSide } from "three";
import { isFamily, type Between, type Line } from "@/core/line";
import { rotate, type Vec3 } from "@/core/math";
import { fromStand } from "@/core/mesh";
import type { Mover } from "@/core/movers";
import { indicesOf, keyOfHex, standingAt } from "@/core/place";
import { useScene } from "@/store";
import {
  guideLinesOf,
  useFamilies,
  useLaid,
  useSession,
  drawnByKnots,
  drawnLine,
  drawnPoints,
  guideOf,
  seenLine,
  markPositions,
  startsAnywhere,
  tagColour,
  taggedSpans,
  usePlacements,
} from "../state";
import { FatLine, FatSegments, Label } from "../three";
import { handleEnds } from "./handles";
import { Knots, Points } from "./Knots";
import { useBrush } from "./brush";
import { boxSides } from "./box-sides";
import { useDraw } from "./draw-state";
import { useMove } from "./move-state";
import { smoothPreview } from "./preview";
import { handlePlace } from "./patching";
import { pullRings } from "./pulling";

/** The handle of the surface in focus, by which it is moved. */
export function SurfaceHandle() {
  const focus = useSession((session) => session.focus);
  const position = useScene((scene) => {
    const found = focus.kind === "surface" ? scene.surfaces.find(({ id }) => id === focus.id) : undefined;
    return found && !found.locked ? found.position : null;
  });
  return position ? <Knots positions={[position]} selected={[0]} /> : null;
}

/** Rings at the pulls of the mover that is chosen, to take hold of; and at the places where it holds its surface fast. */
export function Grips() {
  const focus = useSession((session) => session.focus);
  const chosen = useSession((session) => session.mover);
  const surface = useScene((scene) =>
    focus.kind === "surface" ? scene.surfaces.find(({ id }) => id === focus.id) : undefined,
  );
  const mover = (surface?.movers as Mover[] | undefined)?.find(({ id }) => id === chosen);
  if (!surface || !mover) return null;
  return (
    <>
      <Knots positions={pullRings(surface, mover).map(({ position }) => position)} selected={[]} />
      {"places" in mover && mover.places.length > 0 && (
        <Points look="handle" positions={mover.places.map(({ at }) => fromStand(surface, at))} />
      )}
    </>
  );
}

/** The ring by which the patch that is selected is slid over its surface. */
export function PatchHandle() {
  const dressing = useSession((session) => (session.focus.kind === "dressing" ? session.dressing : null));
  const place = useScene((scene) => {
    const found = scene.dressings.find(({ id }) => id === dressing);
    return (found && handlePlace(scene, found)?.join(" ")) ?? null;
  });
  if (place === null) return null;
  return <Knots positions={[place.split(" ").map(Number) as unknown as Vec3]} selected={[0]} />;
}

/** The sides of the box in focus, to take hold of. */
export function Sides() {
  const focus = useSession((session) => session.focus);
  const box = useScene((scene) =>
    focus.kind === "surface" ? scene.surfaces.find((surface) => surface.id === focus.id) : undefined,
  );
  const positions = useMemo(() => (box ? boxSides(box).map(({ middle }) => middle) : []), [box]);
  return positions.length > 0 ? <Points positions={positions} look="handle" /> : null;
}

const CORD = "#6b5638";
export const SEA = "#1e6f77";
const OCHRE = "#c98a1b";
export const MADDER = "#b5363f";

export function Guides() {
  const lines = useScene((scene) => scene.lines);
  // Lines on surfaces are drawn anew when the worker tells where they lie.
  useLaid((laid) => laid.tracks);
  const dressings = useScene((scene) => scene.dressings);
  const selected = useSession((session) => session.dressing);
  const focus = useSession((session) => session.focus);
  const dressed = useMemo(() => {
    const dressing = dressings.find(({ id }) => id === selected);
    return new Set(dressing && guideLinesOf(dressing));
  }, [dressings, selected]);
  return lines.map((line) => {
    const focused = focus.kind === "line" && focus.id === line.id;
    const lit = focused || (focus.kind === "dressing" && dressed.has(line.id));
    return (
      <group key={line.id}>
        {isFamily(line) ? <Members family={line} lit={lit} /> : <Cord line={line} lit={lit} />}
        {lit && !isFamily(line) && line.marks > 0 && <LineMarks line={line} />}
        {lit && <Tags line={line} labels={focused} />}
        {focused && <Flags line={line} />}
        {focused && (!isFamily(line) || line.pairs === "picked") && <LineKnots line={line} />}
      </group>
    );
  });
}

interface OfLine {
  line: Line;
}

/** What lies in the world is drawn, and never picked: see `Aim`. */
const NO_RAYS = () => null;

function Fat({
  points,
  color,
  width,
  opacity = 1,
}: {
  points: readonly Vec3[];
  color: string;
  width: number;
  opacity?: number;
}) {
  if (points.length < 2) return null;
  return <FatLine {...{ points, color, width, opacity }} />;
}

function Cord({ line, lit }: OfLine & { lit: boolean }) {
  const points = drawnPoints(line);
  const lies = line.kind !== "hanging";
  return <Fat points={points} color={lit ? SEA : CORD} width={lit ? 3 : 2} opacity={lit ? 1 : lies ? 0.3 : 0.95} />;
}

const NO_LINES: readonly Line[] = [];

/** The members of a family, all in one piece. */
function Members({ family, lit }: { family: Between; lit: boolean }) {
  const members = useFamilies((state) => state.families.get(family.id)?.lines ?? NO_LINES);
  const tracks = useLaid((laid) => laid.tracks);
  const points = useMemo(
    () =>
      members.flatMap((line) => {
        const drawn = drawnPoints(line);
        return drawn.slice(1).flatMap((point, i) => [drawn[i], point]);
      }),
    // Where members lie that are on surfaces is told by the tracks.
    // oxlint-disable-next-line react/exhaustive-deps
    [members, tracks],
  );
  const marks = useMemo(() => (lit && family.marks > 0 ? members.flatMap(markPositions) : []), [members, family, lit]);
  if (points.length === 0) return null;
  const lies = family.form === "surface";
  return (
    <>
      <FatSegments points={points} color={lit ? SEA : CORD} width={lit ? 3 : 2} opacity={lit ? 1 : lies ? 0.3 : 0.95} />
      <Points positions={marks} look="mark" />
    </>
  );
}

function LineMarks({ line }: OfLine) {
  const positions = useMemo(() => markPositions(line), [line]);
  return <Points positions={positions} look="mark" />;
}

function Tags({ line, labels }: OfLine & { labels: boolean }) {
  const spans = useMemo(() => taggedSpans(line), [line]);
  return spans.map(({ tag, points, middle }, i) => (
    <group key={i}>
      <Fat points={points} color={tagColour(line, tag)} width={5} />
      {labels && <Label position={middle} text={tag} color={tagColour(line, tag)} />}
    </group>
  ));
}

/** So many flags stand along a line at most. */
const MAX_FLAGS = 24;

/** Little flags along the line that point the way its frame's up does, so that one sees where a roll turns it. */
function Flags({ line }: OfLine) {
  const rolled = line.knots.some(({ roll }) => roll !== undefined && roll !== 0);
  const geometry = useMemo(() => (rolled ? flagsOf(line) : null), [line, rolled]);
  useEffect(() => () => geometry?.dispose(), [geometry]);
  if (!geometry) return null;
  return (
    <mesh geometry={geometry} raycast={NO_RAYS} renderOrder={4} frustumCulled={false}>
      <meshBasicMaterial color={OCHRE} side={DoubleSide} transparent opacity={0.85} toneMapped={false} />
    </mesh>
  );
}

/** A pole and a pennant for each place: triangles in the plane of forward and up. */
function flagsOf(line: Line): BufferGeometry {
  const guide = guideOf(line);
  const { length } = guide.curve;
  const count = Math.max(2, Math.min(MAX_FLAGS, Math.round(length / 0.5)));
  const at = Float64Array.from({ length: count }, (_, i) => (length * (i + 0.5)) / count);
  const position = new Float64Array(3 * count);
  const rotation = new Float64Array(4 * count);
  guide.frames("roll", at, count, position, rotation);
  const tall = Math.min(0.6, Math.max(0.05, length / 30));
  const numbers: number[] = [];
  for (let i = 0; i < count; i++) {
    const q = [0, 1, 2, 3].map((k) => rotation[4 * i + k]) as [number, number, number, number];
    const place = (forward: number, up: number, across = 0) => {
      const [x, y, z] = rotate(q, [across * tall, up * tall, forward * tall]);
      numbers.push(position[3 * i] + x, position[3 * i + 1] + y, position[3 * i + 2] + z);
    };
    // The pole, seen from the side and from the front, and the pennant on it.
    for (const [forward, across] of [
      [0.025, 0],
      [0, 0.025],
    ]) {
      place(-forward, 0, -across);
      place(forward, 0, across);
      place(0, 1);
    }
    place(0, 1);
    place(0, 0.62);
    place(0.5, 0.81);
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(Float32Array.from(numbers), 3));
  return geometry;
}

function LineKnots({ line }: OfLine) {
  if (line.laid?.kind !== "edges") return <OwnKnots line={seenLine(line)} />;
  return startsAnywhere(line) ? <Knots positions={[drawnLine(line).points[0]]} selected={[]} /> : null;
}

function OwnKnots({ line }: OfLine) {
  const knots = useSession((session) => session.knots);
  const positions = useMemo(() => line.knots.map((k) => k.position), [line]);
  const handles = useMemo(() => handleEnds(line, knots), [line, knots]);
  return (
    <>
      {(line.ring || line.laid) && <Fat points={drawnByKnots(line).points} color={SEA} width={1.5} opacity={0.4} />}
      {handles.map(({ knot, side, position }) => (
        <Fat key={`${knot} ${side}`} points={[line.knots[knot].position, position]} color={OCHRE} width={1.5} />
      ))}
      <Points positions={handles.map(({ position }) => position)} look="handle" />
      <Knots positions={positions} selected={knots} line={line} />
      <Ties line={line} />
    </>
  );
}

/** Loops of cord about the knots that are tied to something. */
function Ties({ line }: OfLine) {
  const tied = useMemo(() => line.knots.flatMap(({ held, position }) => (held ? [position] : [])), [line]);
  return <Points positions={tied} look="tied" />;
}

/** The same about placements of the dressing that is selected, and about the handle of a patch. */
export function TiedThings() {
  const selected = useSession((session) => (session.focus.kind === "dressing" ? session.dressing : null));
  const dressing = useScene((scene) => scene.dressings.find(({ id }) => id === selected));
  const scene = useScene((scene) => scene);
  const placements = usePlacements(selected ?? "");
  const positions = useMemo(() => {
    if (!dressing) return [];
    const held = Object.entries(dressing.pegs).flatMap(([hex, peg]) => (peg.held ? [keyOfHex(hex)] : []));
    const handle = dressing.where.patch.tied ? handlePlace(scene, dressing) : null;
    const found = placements && held.length > 0 ? indicesOf(placements.key, new Set(held)) : [];
    return [...found.map((i) => standingAt(placements!, i).position), ...(handle ? [handle] : [])];
  }, [dressing, scene, placements]);
  return positions.length > 0 ? <Points positions={positions} look="tied" /> : null;
}

/** So many are named at once, the nearest first: more would lie over each other. */
const MOST_LABELS = 3;

/** Snap points near the pointer, by their names, and what is caught. */
export function SnapMarks() {
  const near = useMove((move) => move.near);
  const caught = useMove((move) => move.caught);
  const named = useMemo(() => near.filter(({ name }) => name), [near]);
  const others = useMemo(() => near.filter(({ name }) => !name), [near]);
  return (
    <>
      <Points positions={useMemo(() => others.map(({ position }) => position), [others])} look="faint" />
      <Points positions={useMemo(() => named.map(({ position }) => position), [named])} look="snap" />
      {named.slice(0, MOST_LABELS).map(({ position, name }, i) => (
        <Label key={i} position={position} text={name!} color={caught?.what === named[i].what ? MADDER : OCHRE} above />
      ))}
      {caught && <Points positions={[caught.position]} look="caught" />}
    </>
  );
}

/** What has been drawn so far, with the piece up to the pointer. */
export function DrawnSoFar() {
  const { knots, cursor, closing, form } = useDraw();
  const drawing = useSession((session) => session.tool === "draw");
  const between = form === "between";
  const points = useMemo(
    () => (between ? [] : smoothPreview(knots, cursor, closing)),
    [between, knots, cursor, closing],
  );
  const pairs = useMemo(() => {
    const all = cursor ? [...knots, cursor] : knots;
    return between ? all.slice(0, all.length - (all.length % 2)) : [];
  }, [between, knots, cursor]);
  if (!drawing) return null;
  return (
    <>
      {pairs.length > 0 ? (
        <FatSegments points={pairs} color={SEA} width={3} />
      ) : (
        <Fat points={points} color={SEA} width={3} />
      )}
      <Knots positions={cursor && !closing ? [...knots, cursor] : knots} selected={closing ? [0] : []} />
    </>
  );
}

/** The brush on the surface: its rim. */
export function BrushRing() {
  const { at, radius, puts } = useBrush();
  const painting = useSession((session) => session.tool === "paint");
  const points = useMemo(() => {
    if (!at) return [];
    return Array.from({ length: 65 }, (_, k): Vec3 => {
      const angle = (2 * Math.PI * k) / 64;
      return [at[0] + radius * Math.cos(angle), at[1] + 0.06, at[2] + radius * Math.sin(angle)];
    });
  }, [at, radius]);
  return painting ? <Fat points={points} color={puts ? SEA : MADDER} width={2.5} /> : null;
}
