/** The ways in which the sheet can lay a dressing flat, and what is known of its surfaces there. */
import { useMemo } from "react";
import { MADE_KINDS } from "@/core/made";
import { MOST_UNROLLED, type ChartTable } from "@/core/mesh";
import { isWrapped, kindOf, type Dressing, type Placements, type Sight } from "@/core/place";
import type { Surface } from "@/core/scene";
import { useScene } from "@/store";
import { useSurfaceModels, useSurfacesMeant, type Model } from "../assets";
import { useCharted, useSession, useSight, type SheetBy } from "../state";
import { Charts } from "./charts";

export interface SheetProps {
  dressing: Dressing;
  placements: Placements;
}

export interface LaidOut extends SheetProps {
  ways: Ways;
  by: SheetBy;
  /** Null until it is known. */
  sight: Sight | null;
  /** The surfaces laid flat, where they are shown so. */
  charts: Charts | null;
}

/** A dressing as the sheet lays it flat at the moment. */
export function useLaidOut({ dressing, placements }: SheetProps): LaidOut {
  const ways = useWays(dressing);
  const by = useSheetBy(ways);
  const sight = useSight(dressing.id);
  const charts = useCharts(sight?.charted ?? null, placements.fields, by === "uv");
  return { dressing, placements, sight, ways, by, charts };
}

/** The surfaces laid out by their UVs, where that is asked for and done. */
function useCharts(charted: Sight["charted"], fields: readonly string[], wanted: boolean): Charts | null {
  const known = useCharted(({ surfaces }) => surfaces);
  const surfaces = useScene((scene) => scene.surfaces);
  return useMemo(
    () => (wanted && charted ? Charts.of(charted, fields, known, surfaces) : null),
    [charted, fields, known, surfaces, wanted],
  );
}

/** How the sheet can lay a dressing out, and what each way is called. */
export type Ways = Partial<Record<SheetBy, string>>;

/** What surfaces are laid flat by, in a word. */
const BY: Readonly<Record<ChartTable["by"], string>> = { uv: "By UVs", round: "By profile", unrolled: "Unrolled" };

function useWays(dressing: Dressing): Ways {
  const models = useOwnModels(dressing);
  const known = useCharted(({ surfaces }) => surfaces);
  const parts = models.flatMap(({ model }) => model.parts);
  const triangles = parts.reduce(
    (sum, { geometry: { index, attributes } }) => sum + (index ?? attributes.position).count / 3,
    0,
  );
  const byUvs = parts.every(({ geometry }) => geometry.attributes.uv);
  const laid = parts.length > 0 && (byUvs || triangles <= MOST_UNROLLED);
  const first = models[0]?.surface;
  const by = known.get(first?.id ?? "")?.table.by ?? expected(first, byUvs);
  const flat = laid && { uv: BY[by] };
  if (isWrapped(dressing.where)) return { ...flat, above: "Above" };
  return { ...(kindOf(dressing.where).handled && { flat: "Flat" }), above: "Above", ...flat };
}

/** What a surface will be laid flat by, before the worker has done so. */
function expected(surface: Surface | undefined, byUvs: boolean): ChartTable["by"] {
  const wished = surface?.laying.by ?? "best";
  if (wished !== "best" && (wished !== "uv" || byUvs)) return wished;
  if (surface?.made && MADE_KINDS[surface.made.kind].measured) return "round";
  return byUvs ? "uv" : "unrolled";
}

/** How it does: as was wished for last, where it can; else as comes first. */
const useSheetBy = (ways: Ways): SheetBy =>
  useSession(({ sheetBy }) => (sheetBy in ways ? sheetBy : (Object.keys(ways)[0] as SheetBy)));

const NO_MODELS: readonly { surface: Surface; model: Model }[] = [];

/** The surfaces of a dressing that are loaded. */
export function useOwnModels({ where }: Dressing): readonly { surface: Surface; model: Model }[] {
  const named = kindOf(where).onSurfaces ? where.surfaces : [];
  const found = useSurfaceModels(useSurfacesMeant(({ id }) => named.includes(id)));
  return found.length > 0 ? found : NO_MODELS;
}
