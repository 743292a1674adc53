/** What the worker tells of families of lines: their members, which are drawn, picked and measured as lines are. */
import { create } from "zustand";
import { familyOf, isFamily, nameOfMember, NO_MEMBERS, type Line, type Members } from "@/core/line";
import type { Scene } from "@/core/scene";
import { useScene, useSceneStore } from "@/store";
import { knowing, type Told } from "@/engine/told";

type Families = ReadonlyMap<string, Members>;

export const useFamilies = create<{ families: Families }>()(() => ({ families: new Map() }));

export const putFamilies = (told: Told<Members>): void =>
  useFamilies.setState(({ families }) => ({ families: knowing(families, named(told)) }));

/** Members under the names of their families are given when they are asked for; here they only get their numbers. */
const named = ({ changed, gone }: Told<Members>): Told<Members> => ({
  changed: changed.map(([id, members]) => [
    id,
    { ...members, lines: members.lines.map((line, i) => ({ ...line, name: nameOfMember("", i) })) },
  ]),
  gone,
});

/** What a family comes to, as far as it is known. */
export const membersNow = (family: string): Members => useFamilies.getState().families.get(family) ?? NO_MEMBERS;

/** All lines that run somewhere: for each family its members. */
export function runningLines(lines: readonly Line[], families: Families): readonly Line[] {
  if (families.size === 0) return lines;
  return lines.flatMap((line) => (isFamily(line) ? (families.get(line.id)?.lines ?? []) : [line]));
}

export const runningLinesNow = (): readonly Line[] =>
  runningLines(useSceneStore.getState().shown.lines as readonly Line[], useFamilies.getState().families);

export function useRunningLines(): readonly Line[] {
  const lines = useScene((scene) => scene.lines) as readonly Line[];
  const families = useFamilies((state) => state.families);
  return runningLines(lines, families);
}

/** The line or member with an id. */
export function lineRunning(lines: Scene["lines"], id: string): Line | undefined {
  const own = lines.find((line) => line.id === id) as Line | undefined;
  if (own) return own;
  const family = familyOf(id);
  return family === null ? undefined : membersNow(family).lines.find((line) => line.id === id);
}

/** The line of the scene that a line or a member of a family belongs to. */
export const ownerOfLine = (lines: Scene["lines"], id: string): string =>
  lines.some((line) => line.id === id) ? id : (familyOf(id) ?? id);

/** A way to tell what lines and members of families are called, for many at once. */
export function lineNames(): (line: Pick<Line, "id" | "name">) => string {
  const names = new Map(useSceneStore.getState().shown.lines.map(({ id, name }) => [id, name]));
  return ({ id, name }) => names.get(id) ?? `${names.get(familyOf(id) ?? "") ?? ""}${name}`;
}

/** What a line or a member of a family is called. */
export function lineName(id: string): string | undefined {
  const line = lineRunning(useSceneStore.getState().shown.lines, id);
  return line && lineNames()(line);
}
