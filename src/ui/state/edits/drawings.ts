/** Drawings that are brought in as lines, once and again. */
import { toast } from "sonner";
import { linesOfDrawing, type Drawing, type DrawingPlace } from "@/core/files";
import { lineSchema, type Line } from "@/core/line";
import { freeName, newId, nextLineNumber, type Scene } from "@/core/scene";
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
  const made = linesOfDrawing(drawing, file, place).map(({ kind, closed, knots, source }): Line => {
    const old = before.get(source!.part);
    // Whatever is the line's own stays as it is.
    if (old) return lineSchema.parse({ ...old, kind, closed, knots, source });
    const name = freeName(`${stem}${source!.hole ? " hole" : ""} 1`, names);
    names.push(name);
    return lineSchema.parse({ kind, closed, knots, source, id: newId(), number: number++, name });
  });
  store().change(before.size > 0 ? "Bring a drawing again" : "Bring in a drawing", (draft) => {
    for (const line of made) {
      const at = draft.lines.findIndex(({ id }) => id === line.id);
      if (at >= 0) draft.lines[at] = line as Draft<Line>;
      else draft.lines.push(line as Draft<Line>);
    }
  });
  const again = made.filter(({ id }) => lines.some((line) => line.id === id)).length;
  if (made.length > 0) selectLine(made[0].id);
  useSession.setState({ cameraWish: { kind: "selection" } });
  const said = made.length === 1 ? "1 line" : `${made.length} lines`;
  toast.success(
    again > 0 ? `“${file}” is brought again: ${again} of ${said} were there before.` : `“${file}” is ${said} now.`,
  );
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
