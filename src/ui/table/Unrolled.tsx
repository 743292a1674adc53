"use client";
/** Below the view: the strip of a dressing that runs along lines, the sheet of one that is spread. */
import { kindOf, type Dressing } from "@/core/place";
import { useScene } from "@/store";
import { Sheet } from "../sheet";
import { usePlacements, useSession } from "../state";
import { Strip } from "../strip";

const NOTHING = {
  along: "no line",
  over: "no surface and no area",
  inside: "no volume",
  pinned: "no pin",
  patch: "no surface",
  wrapped: "no surface",
  loose: "nothing put down",
} as const;

/** What lies unrolled: a dressing, and what it came to. */
export function useUnrolled() {
  const selected = useSession((session) => session.dressing);
  const focus = useSession((session) => session.focus);
  const dressings = useScene((scene) => scene.dressings);
  const chosen = dressings.find((dressing) => dressing.id === selected);
  // With a line in focus, the strip shows a dressing that runs along it.
  const along = focus.kind === "line" ? (d: Dressing) => d.where.lines.includes(focus.id) : null;
  const dressing = along ? ((chosen && along(chosen) ? chosen : undefined) ?? dressings.find(along)) : chosen;
  const placements = usePlacements(dressing?.id ?? null);
  return { dressing, placements };
}

export function Unrolled() {
  const { dressing, placements } = useUnrolled();
  return (
    <footer
      aria-label={dressing && !kindOf(dressing.where).ordered ? "Sheet" : "Strip"}
      className="grid h-full min-h-0 grid-cols-[312px_1fr_188px] border-t max-[959px]:grid-cols-1 border-linen-2 bg-linen-0"
    >
      {dressing && placements && placements.fields.length > 0 ? (
        <Sheet dressing={dressing} placements={placements} />
      ) : dressing && placements && placements.lines.length > 0 ? (
        <Strip key={dressing.id} dressing={dressing} placements={placements} />
      ) : (
        <p className="col-span-full grid place-items-center text-ink-6">
          {dressing
            ? placements
              ? `This dressing has ${NOTHING[dressing.where.kind]} yet. Choose one under Where.`
              : "Placing…"
            : "Here a dressed line lies unrolled, from its start to its end."}
        </p>
      )}
    </footer>
  );
}
