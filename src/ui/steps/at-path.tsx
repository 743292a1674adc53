"use client";
/** Controls for values that lie deep in a thing of the scene: each found, edited and let change over time by its path. */
import type { z } from "zod";
import type { CoursedList, Scene } from "@/core/scene";
import { describeChoice, describeParam } from "@/core/schema";
import { useSceneStore } from "@/store";
import { NumberField, RangeField, Segmented, Toggle } from "../kit";
import { useEdit } from "../state";
import { Tide } from "../time";
import { complaintOf } from "./params";
import type { Draft } from "immer";

/** A value: of which thing, and the path to it from there, where lists go by ids. */
export interface AtPath {
  list: CoursedList;
  thing: { id: string };
  path: readonly (string | number)[];
  schema: z.ZodType;
}

type Keyed = Record<string, unknown>;

/** What holds the value at a path: all but the last step of it is gone along. */
export function holderOf(thing: unknown, path: readonly (string | number)[]): Keyed | undefined {
  let at = thing;
  for (const step of path.slice(0, -1)) {
    if (Array.isArray(at)) at = (at as { id: number }[]).find(({ id }) => id === step);
    else at = (at as Keyed | undefined)?.[step];
  }
  return at as Keyed | undefined;
}

const nameIn = (path: readonly (string | number)[]): string => String(path[path.length - 1]);

function writeAt(scene: Draft<Scene>, { list, thing, path }: Omit<AtPath, "schema">, value: unknown): void {
  const found = (scene[list] as { id: string }[]).find(({ id }) => id === thing.id);
  const holder = found && holderOf(found, path);
  if (holder) holder[nameIn(path)] = value;
}

const markOf = ({ list, thing, path }: Omit<AtPath, "schema">, label: string) => (
  <Tide at={{ list, id: thing.id, path: path.join("/") }} label={label} />
);

const valueOf = <T,>({ thing, path }: AtPath): T => holderOf(thing, path)?.[nameIn(path)] as T;

export function PathNumber(at: AtPath) {
  const param = describeParam(at.schema);
  const edit = useEdit<number>(param.label, (scene, value) => writeAt(scene, at, value));
  return (
    <NumberField
      param={param}
      value={valueOf<number>(at)}
      standard={at.schema.parse(undefined) as number}
      edit={edit}
      complaint={(value) => complaintOf(at.schema, value)}
      mark={markOf(at, param.label)}
    />
  );
}

export function PathRange(at: AtPath) {
  const param = describeParam(at.schema);
  const edit = useEdit<readonly [number, number]>(param.label, (scene, value) => writeAt(scene, at, [...value]));
  return (
    <RangeField
      param={param}
      value={valueOf<readonly [number, number]>(at)}
      edit={edit}
      complaint={(value) => complaintOf(at.schema, [...value])}
      mark={markOf(at, param.label)}
    />
  );
}

const changeAt = (at: AtPath, label: string) => (value: unknown) =>
  useSceneStore.getState().change(label, (scene) => writeAt(scene, at, value));

export function PathChoice({ columns, ...at }: AtPath & { columns?: number }) {
  const { label, help, choices } = describeChoice(at.schema);
  return (
    <div className="group/tide grid grid-cols-[84px_1fr] items-center gap-2">
      <span className="flex items-center gap-1 text-[12.5px] text-ink-6" title={help}>
        {label}
        {markOf(at, label)}
      </span>
      <Segmented
        label={label}
        help={help}
        value={valueOf<string>(at)}
        choices={choices}
        columns={columns}
        onChange={changeAt(at, label)}
      />
    </div>
  );
}

export function PathSwitch(at: AtPath) {
  const { label, help } = at.schema.meta() as { label: string; help: string };
  return (
    <Toggle
      label={label}
      help={help}
      on={valueOf<boolean>(at)}
      onChange={changeAt(at, label)}
      mark={markOf(at, label)}
    />
  );
}
