/** Surfaces laid out by their UVs, as the worker hands them over. */
import { create } from "zustand";
import { Graph, input, query } from "@/core/graph";
import { UvChart, WorldMesh, type Stand } from "@/core/mesh";
import type { Surface } from "@/core/scene";
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

const chartedInput = input<ChartedSurface>("charted surface");
const standInput = input<Stand>("stand");
const chart = query("chart", (ask, id) => {
  const { mesh, table } = ask(chartedInput, id)!;
  return new UvChart(WorldMesh.of(id, { ...mesh, attributes: [] }, ask(standInput, id)!), table);
});
let graph = new Graph();

/** The chart of a surface as it stands, for asking it for places. */
export function chartOf(one: ChartedSurface, { id, position, rotation, scale }: Surface): UvChart {
  graph.set(chartedInput, id, one);
  graph.set(standInput, id, { position, rotation, scale });
  return graph.get(chart, id);
}

export function forgetCharts(): void {
  useCharted.setState({ surfaces: new Map() });
  graph = new Graph();
}
