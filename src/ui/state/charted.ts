/** Surfaces laid out by their UVs, as the worker hands them over. */
import { create } from "zustand";
import { Graph, input, query } from "@/core/graph";
import { Chart, WorldMesh, type Laying, type Stand } from "@/core/mesh";
import type { MovedShape } from "@/core/movers";
import { kindOf } from "@/core/place";
import type { Surface } from "@/core/scene";
import type { ChartedSurface, LookedAt } from "@/engine/engine";
import { useSceneStore } from "@/store";
import { useMoved } from "./moved";
import { useSession } from "./session";

export const useCharted = create<{ surfaces: ReadonlyMap<string, ChartedSurface> }>()(() => ({ surfaces: new Map() }));

export function putCharts(charts: readonly [string, ChartedSurface][]): void {
  useCharted.setState({ surfaces: new Map([...useCharted.getState().surfaces, ...charts]) });
}

/** What the sheet shows, if anything: also laid flat, where it is shown by UVs or has a layout of its own. */
export function lookedAt(): LookedAt | null {
  const { sheetBy, dressing: id } = useSession.getState();
  const dressing = useSceneStore.getState().shown.dressings.find((one) => one.id === id);
  const kind = dressing && kindOf(dressing.where);
  return dressing && kind?.unrolls === "sheet"
    ? { dressing: dressing.id, flat: sheetBy === "uv" || kind.laysOut }
    : null;
}

const chartedInput = input<ChartedSurface>("charted surface");
const standInput = input<Stand>("stand");
const layingInput = input<Laying>("laying");
const movedInput = input<MovedShape>("moved shape");
const restChart = query("chart at rest", (ask, id) => {
  const { mesh, table } = ask(chartedInput, id)!;
  return new Chart(WorldMesh.of(id, { ...mesh, attributes: [] }, ask(standInput, id)!, ask(layingInput, id)), table);
});
const chart = query("chart", (ask, id) => {
  const [rest, stand, moved] = [ask(restChart, id), ask(standInput, id)!, ask(movedInput, id)];
  if (!moved) return rest;
  const position = Float64Array.from(moved.position, (metres) => stand.scale * metres);
  return new Chart(rest.ground.at(stand, { position, normal: moved.normal }), rest.table);
});
let graph = new Graph();

function tell(one: ChartedSurface, { id, position, rotation, scale, laying }: Surface): void {
  graph.set(chartedInput, id, one);
  graph.set(standInput, id, { position, rotation, scale });
  graph.set(layingInput, id, laying);
  graph.set(movedInput, id, useMoved.getState().shapes.get(id));
}

/** The chart of a surface as it stands, for asking it for places. */
export function chartOf(one: ChartedSurface, surface: Surface): Chart {
  tell(one, surface);
  return graph.get(chart, surface.id);
}

/** The chart of a surface by its id, as that is seen; null while the worker has not handed it over. */
export function chartNow(id: string): Chart | null {
  const one = useCharted.getState().surfaces.get(id);
  const surface = useSceneStore.getState().shown.surfaces.find((each) => each.id === id);
  return one && surface ? chartOf(one, surface) : null;
}

/** The same before anything moves it; null while the worker has not handed it over. */
export function restChartOf(surface: Surface): Chart | null {
  const one = useCharted.getState().surfaces.get(surface.id);
  if (!one) return null;
  tell(one, surface);
  return graph.get(restChart, surface.id);
}

export function forgetCharts(): void {
  useCharted.setState({ surfaces: new Map() });
  graph = new Graph();
}
