/** The lines that close round, as every choice of outlines lists them. */
import type { Line } from "@/core/line";
import { useScene } from "@/store";
import { drawnLine } from "./guides";
import { useLaid } from "./laid";

/** Of those on surfaces it is known when the worker has told where they lie. */
export function useClosedLines(): readonly Line[] {
  const lines = useScene((scene) => scene.lines);
  useLaid((laid) => laid.tracks);
  return lines.filter((line) => drawnLine(line).curve.closed);
}
