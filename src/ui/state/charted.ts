/** Surfaces laid out by their UVs, as the worker hands them over. */
import { create } from "zustand";
import { Graph, input, query } from "@/core/graph";
import { Chart, WorldMesh, type Laying, type Stand } from "@/core/mesh";
import type { MovedShape } from "@/core/movers";
import { kindOf } from "@/core/place";
import type { Surface } from "@/core/scene";
import type { ChartedSurface } from "@/engine/engine";
import { useSceneStore } from "@/store";
import { useMoved } from "./moved";
import { useSession } from "./session";

export const useCharted = create<{ surfaces: ReadonlyMap<string, ChartedSurface> }>()(() => ({ surfaces: new Map() }));

export function putCharts(charts: readonly [string, ChartedSurface][]): void {
  useCharted.setState({ surfaces: new Map([...useCharted.getState().surfaces, ...charts]) });
}

/** The dressing that the sheet lays out by UVs, or as its own layout lies, if it does. */
export function dressingOnCharts(): string | null {
  const { sheetBy, dressing: id } = useSession.getState();
  const dressing = useSceneStore.getState().shown.dressings.find((one) => one.id === id);
  const laid = sheetBy === "uv" || (sheetBy === "flat" && dressing && kindOf(dressing.where).handled);
  return laid ? id : null;
}

const chartedInput = input<ChartedSurface>("charted surface");
const standInput = input<Stand>("stand");
const layingInput = input<Laying>("laying");
const movedInput = input<MovedShape>("moved shape");
const chart = query("chart", (ask, id) => {
  const { mesh, table } = ask(chartedInput, id)!;
  const [stand, moved] = [ask(standInput, id)!, ask(movedInput, id)];
  const rest = WorldMesh.of(id, { ...mesh, attributes: [] }, stand, ask(layingInput, id));
  if (!moved) return new Chart(rest, table);
  const position = Float64Array.from(moved.position, (metres) => stand.scale * metres);
  return new Chart(rest.at(stand, { position, normal: moved.normal }), table);
});
let graph = new Graph();

/** The chart of a surface as it stands, for asking it for places. */
export function chartOf(one: ChartedSurface, { id, position, rotation, scale, laying }: Surface): Chart {
  graph.set(chartedInput, id, one);
  graph.set(standInput, id, { position, rotation, scale });
  graph.set(layingInput, id, laying);
  graph.set(movedInput, id, useMoved.getState().shapes.get(id));
  return graph.get(chart, id);
}

export function forgetCharts(): void {
  useCharted.setState({ surfaces: new Map() });
  graph = new Graph();
}
