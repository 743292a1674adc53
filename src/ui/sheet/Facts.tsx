"use client";
/** About the sheet: how many, how dense, how far neighbours are apart, how true to length it is. */
import { useMemo } from "react";
import { kindOf, type Sight } from "@/core/place";
import { useScene } from "@/store";
import { GapChart, Segmented } from "../kit";
import { useSession, type SheetBy } from "../state";
import { useAtLeisure } from "../time";
import type { Charts } from "./charts";
import { isShown, neighboursOf } from "./model";
import type { LaidOut } from "./ways";

/** Left of the sheet: how many, how dense, and how far neighbours are apart. */
export function Facts({ dressing, ways, by, charts, ...now }: LaidOut) {
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
  const density = useAtLeisure(now.sight?.density ?? null);
  const free = useMemo(() => freeArea(density), [density]);
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
        <SheetWays ways={ways} by={by} />
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

/** The choice between the ways of laying it flat, where there are several. */
export function SheetWays({ ways, by }: Pick<LaidOut, "ways" | "by">) {
  const count = Object.keys(ways).length;
  if (count < 2) return null;
  return (
    <div className={`shrink-0 text-[11px] ${count > 2 ? "w-[172px]" : "w-[132px]"}`}>
      <Segmented
        label="How the sheet lays it flat"
        help="As its flat layout lies, seen from above, or laid flat at real size."
        value={by}
        choices={ways as Record<SheetBy, string>}
        onChange={(sheetBy) => useSession.setState({ sheetBy })}
      />
    </div>
  );
}

/** Off by less than this it is called true to length. */
const TRUE = 0.005;

/** How true to length the sheet is, in words. */
export function stretchInWords({ within, worst, where }: Charts["stretch"]): string {
  if (worst < TRUE) return "true to length";
  return `true within ${percent(within)}, worst ${percent(worst)} ${where}`;
}

const percent = (share: number): string => `${share < 0.0995 ? (100 * share).toFixed(1) : Math.round(100 * share)} %`;

/** How much of the plan is free for props, square metres; what is only half as full counts half. */
function freeArea(density: Sight["density"]): number {
  if (!density) return 0;
  const { least, most, columns, rows, share, height } = density;
  const cell = ((most[0] - least[0]) * (most[1] - least[1])) / (columns * rows);
  let free = 0;
  for (let i = 0; i < share.length; i++) if (!Number.isNaN(height[i])) free += share[i] * cell;
  return free;
}
