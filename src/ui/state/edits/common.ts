/** What all edits share: the scene as it is, and how one of its dressings or lines is changed. */
import { kindOf, type Dressing } from "@/core/place";
import type { Line } from "@/core/line";
import type { Vec3 } from "@/core/math";
import { intoOwn } from "@/core/mesh";
import type { Scene } from "@/core/scene";
import { useSceneStore } from "@/store";
import { atRest } from "../moved";
import type { Draft } from "immer";

export const store = () => useSceneStore.getState();
export const scene = (): Scene => store().shown;

export function dressingOf(draft: Draft<Scene>, id: string): Draft<Dressing> | undefined;
export function dressingOf(scene: Scene, id: string): Dressing | undefined;
export function dressingOf(any: Scene | Draft<Scene>, id: string): Dressing | Draft<Dressing> | undefined {
  return any.dressings.find((dressing) => dressing.id === id);
}

export function lineOf(draft: Draft<Scene>, id: string): Draft<Line> | undefined;
export function lineOf(scene: Scene, id: string): Line | undefined;
export function lineOf(any: Scene | Draft<Scene>, id: string): Line | Draft<Line> | undefined {
  return any.lines.find((line) => line.id === id);
}

/** The dressings of a scene and of all its assemblies. */
export const everyDressing = (draft: Draft<Scene>): Draft<Dressing>[] => [
  ...draft.dressings,
  ...draft.props.flatMap(({ assembly }) => assembly?.dressings ?? []),
];

/** A way of changing the thing with an id, as one change with a name; nothing where it is gone. */
export const editing =
  <T>(find: (draft: Draft<Scene>, id: string) => Draft<T> | undefined) =>
  (id: string, label: string, edit: (thing: Draft<T>) => void, mark?: string): void =>
    store().change(
      label,
      (draft) => {
        const thing = find(draft, id);
        if (thing) edit(thing);
      },
      mark,
    );

export const editDressing = editing<Dressing>((draft, id) => dressingOf(draft, id));
export const editLine = editing<Line>((draft, id) => lineOf(draft, id));

/** Ids of the lines that a dressing is about: those it runs along, or the outlines of its areas and holes. */
export const guideLinesOf = ({ where }: Dressing): readonly string[] => kindOf(where).lines(where);

/** Places that are set by hand are kept to the millimetre. */
export const millimetre = (metres: number): number => Math.round(metres * 1000) / 1000 + 0;

/** A point at a surface as it is seen, in its own coordinates at rest, to the millimetre; at an area that has none as it is. */
export function inField(
  { surfaces }: Pick<Scene, "surfaces"> | Draft<Pick<Scene, "surfaces">>,
  id: string,
  point: Vec3,
): [number, number, number] {
  const surface = (surfaces as Scene["surfaces"]).find((one) => one.id === id);
  if (!surface) return point.map(millimetre) as [number, number, number];
  return atRest(id, intoOwn(surface, point)).map(millimetre) as [number, number, number];
}
