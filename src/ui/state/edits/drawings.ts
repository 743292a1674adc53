/** Drawings that are brought in as lines, once and again. */
import { toast } from "sonner";
import { linesOfDrawing, type Drawing, type DrawingPlace, type OutlineLine } from "@/core/files";
import { offSheet } from "@/core/lay";
import { laidSchema, lineSchema, type Line } from "@/core/line";
import { kindOf } from "@/core/place";
import { freeName, newId, nextLineNumber, type Scene, type Surface } from "@/core/scene";
import { chartNow } from "../charted";
import { selectLine, useSession } from "../session";
import { scene, store } from "./common";
import type { Draft } from "immer";

/** Where a drawing of a name was brought the last time; null where it was not. */
export const placeOfDrawing = ({ lines }: Pick<Scene, "lines">, file: string): DrawingPlace | null =>
  lines.find(({ source }) => source?.file === file)?.source?.place ?? null;

/**
 * The drawing's outlines as lines, in one step. Those that were brought before take on what the drawing says now and keep
 * their names and all that hangs on them; those that it has no more stay.
 */
export function bringDrawing(drawing: Drawing, file: string, place: DrawingPlace): void {
  const { lines } = scene();
  const before = new Map(lines.flatMap((line) => (line.source?.file === file ? [[line.source.part, line]] : [])));
  const names = lines.map(({ name }) => name);
  const bare = file.replace(/\.[^.]*$/, "").slice(0, 60) || "Drawing";
  const stem = bare[0].toUpperCase() + bare.slice(1);
  let number = nextLineNumber(scene());
  const outlines = linesOfDrawing(drawing, file, place);
  const there = place.sheet === undefined ? outlines : onItsSheet(outlines, place.sheet);
  if (!there)
    return void toast.error(`The surface that “${file}” lies on is not laid flat: show it on the sheet first.`);
  const beside = outlines.length - there.length;
  const made = there.map(({ kind, closed, knots, source }): Line => {
    const old = before.get(source!.part);
    // Whatever is the line's own stays as it is.
    if (old) return lineSchema.parse({ ...old, kind, closed, knots, source });
    const lies = place.sheet === undefined ? {} : layingOn(place.sheet);
    const name = freeName(`${stem}${source!.hole ? " hole" : ""} 1`, names);
    names.push(name);
    return lineSchema.parse({ kind, closed, knots, source, ...lies, id: newId(), number: number++, name });
  });
  if (beside > 0) {
    toast.error(
      `${beside === 1 ? "One outline lies" : `${beside} outlines lie`} beside the sheet, and ${beside === 1 ? "stays" : "stay"} out. A smaller width brings ${beside === 1 ? "it" : "them"} onto it.`,
    );
  }
  if (made.length === 0) return;
  store().change(before.size > 0 ? "Bring a drawing again" : "Bring in a drawing", (draft) => {
    for (const line of made) {
      const at = draft.lines.findIndex(({ id }) => id === line.id);
      if (at >= 0) draft.lines[at] = line as Draft<Line>;
      else draft.lines.push(line as Draft<Line>);
    }
  });
  const again = made.filter(({ id }) => lines.some((line) => line.id === id)).length;
  // What goes onto a sheet is seen there.
  if (place.sheet === undefined) {
    selectLine(made[0].id);
    useSession.setState({ cameraWish: { kind: "selection" } });
  }
  const said = made.length === 1 ? "1 line" : `${made.length} lines`;
  toast.success(
    again > 0 ? `“${file}” is brought again: ${again} of ${said} were there before.` : `“${file}” is ${said} now.`,
  );
}

/** Outlines that are flat on a sheet, where they lie on its surface; without those beside it. Null where it is not laid flat. */
function onItsSheet(outlines: readonly OutlineLine[], sheet: string): OutlineLine[] | null {
  const chart = chartNow(sheet);
  if (!chart) return null;
  return outlines.flatMap((line) => {
    const knots = offSheet(line.knots, chart);
    return knots ? [{ ...line, knots }] : [];
  });
}

const layingOn = (surface: string): Partial<Line> => ({
  laid: laidSchema.parse({ kind: "surface", on: [surface], way: "nearest", how: "sheet" }),
  drawnOn: [surface],
});

/** The surface that is laid flat on the sheet, where there is one, and the box of its sheet. */
export function sheetForDrawings(): { surface: Surface; least: [number, number]; most: [number, number] } | null {
  const id = shownOnSheet();
  const surface = scene().surfaces.find((one) => one.id === id);
  const chart = surface && chartNow(surface.id);
  return chart ? { surface, least: chart.least, most: chart.most } : null;
}

/** The surface in focus, or that the selected dressing is wrapped round or spread over. */
function shownOnSheet(): string | null {
  const { focus, dressing } = useSession.getState();
  if (focus.kind === "surface") return focus.id;
  const where = scene().dressings.find(({ id }) => id === dressing)?.where;
  return where && kindOf(where).onSurfaces ? (where.surfaces[0] ?? null) : null;
}

/** The holes of an outline that came with a drawing: those of the same element. */
export function holesOf({ source }: Line, { lines }: Pick<Scene, "lines">): string[] {
  if (!source || source.hole) return [];
  const element = elementOf(source.part);
  return lines.flatMap((other) =>
    other.source?.file === source.file && other.source.hole && elementOf(other.source.part) === element
      ? [other.id]
      : [],
  );
}

const elementOf = (part: string): string => part.replace(/\/\d+$/, "");
