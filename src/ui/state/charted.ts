/** Surfaces laid out by their UVs, as the worker hands them over. */
import { create } from "zustand";
import type { ChartedSurface } from "@/engine/engine";
import { useSession } from "./session";

export const useCharted = create<{ surfaces: ReadonlyMap<string, ChartedSurface> }>()(() => ({ surfaces: new Map() }));

export function putCharts(charts: readonly [string, ChartedSurface][]): void {
  useCharted.setState({ surfaces: new Map([...useCharted.getState().surfaces, ...charts]) });
}

/** The dressing whose surfaces the sheet lays out by their UVs, if it does. */
export function dressingOnCharts(): string | null {
  const { sheetBy, dressing } = useSession.getState();
  return sheetBy === "uv" ? dressing : null;
}
