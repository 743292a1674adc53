"use client";
/** What the pointer is on: which prop, where on its line or surface, how far to its neighbours. */
import { useMemo, type ReactNode } from "react";
import type { Placements, Reason } from "@/core/place";
import { formatValue } from "@/core/schema";
import { useScene } from "@/store";
import { useResults, useSession } from "../state";
import { isShown } from "./placed";

export function HoverBubble() {
  const hover = useSession((session) => session.hover);
  const why = useSession((session) => session.why);
  const results = useResults((state) => state.byDressing);
  const props = useScene((scene) => scene.props);
  const surfaces = useScene((scene) => scene.surfaces);
  const lines = useScene((scene) => scene.lines);
  const text = useMemo(() => {
    const placements = hover && results.get(hover.dressing)?.placements;
    if (!placements) return null;
    const i = placements.key.indexOf(hover.key);
    if (i < 0) return null;
    const name = isShown(placements, i)
      ? props.find((p) => p.id === placements.props[placements.prop[i]])?.name
      : "Blank";
    if (placements.lines.length > 0)
      return { name: `${name} at ${placements.at[i].toFixed(2)} m`, gaps: gapsAround(placements, i) };
    const field = [...surfaces, ...lines].find(({ id }) => id === placements.fields[placements.line[i]]);
    return { name: `${name} on ${field?.name ?? "a surface"}`, gaps: nearestTo(placements, i) };
  }, [hover, results, props, surfaces, lines]);
  if (hover && text) {
    return (
      <Bubble at={hover}>
        <b className="font-semibold">{text.name}</b>
        <br />
        {text.gaps}
      </Bubble>
    );
  }
  if (!why?.reason) return null;
  return (
    <Bubble at={why}>
      <b className="font-semibold">{why.share === 0 ? "Nothing here" : `${formatValue(why.share, "share")} here`}</b>
      <br />
      {REASON_WORDS[why.reason]}
    </Bubble>
  );
}

/** Why nothing, or less, stands at a place. */
const REASON_WORDS: Readonly<Record<Reason, string>> = {
  walls: "too near the walls",
  outside: "outside its areas, or in a hole",
  paint: "as it was painted",
  mask: "by a mask",
  slope: "by its slope",
  height: "by its height",
  facing: "by the way it faces",
  uv: "by where it lies along u or v",
  distance: "by its distance to something",
  edge: "fading out at the edge",
};

function Bubble({ at, children }: { at: { x: number; y: number }; children: ReactNode }) {
  return (
    <div
      role="tooltip"
      className="pointer-events-none fixed z-30 rounded-lg bg-ink-9 px-2.5 py-1.5 text-[11.5px] leading-snug text-paper"
      style={{ left: Math.min(at.x + 14, window.innerWidth - 190), top: Math.max(8, at.y - 48) }}
    >
      {children}
    </div>
  );
}

/** How far away the nearest other prop is, as a phrase. */
function nearestTo(p: Placements, i: number): string {
  const { position } = p;
  let least = Infinity;
  for (let k = 0; k < p.count; k++) {
    if (k === i || !isShown(p, k)) continue;
    const dx = position[3 * k] - position[3 * i];
    const dy = position[3 * k + 1] - position[3 * i + 1];
    const dz = position[3 * k + 2] - position[3 * i + 2];
    least = Math.min(least, Math.hypot(dx, dy, dz));
  }
  return least === Infinity ? "alone there" : `${least.toFixed(2)} m to the nearest`;
}

/** The distances along the line to the props on both sides, as a phrase. */
function gapsAround(p: Placements, i: number): string {
  let before = Infinity;
  let after = Infinity;
  const length = p.lineLengths[p.line[i]];
  for (let k = 0; k < p.count; k++) {
    if (k === i || p.line[k] !== p.line[i] || !isShown(p, k)) continue;
    let gap = p.at[k] - p.at[i];
    if (p.lineClosed[p.line[i]]) gap = gap > length / 2 ? gap - length : gap < -length / 2 ? gap + length : gap;
    if (gap >= 0) after = Math.min(after, gap);
    else before = Math.min(before, -gap);
  }
  const text = (gap: number) => `${gap.toFixed(2)} m`;
  if (before === Infinity && after === Infinity) return "alone on its line";
  if (before === Infinity) return `${text(after)} to the next`;
  if (after === Infinity) return `${text(before)} to the one before`;
  return Math.abs(before - after) < 0.005
    ? `${text(after)} to each neighbour`
    : `${text(before)} back, ${text(after)} on`;
}
