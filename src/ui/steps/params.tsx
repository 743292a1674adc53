"use client";
/** Controls of a step made from its schema: label, unit, default, limits and explanation all come from there. */
import { original, type Draft } from "immer";
import type { z } from "zod";
import { schemaOf, type Dressing, type StepName } from "@/core/place";
import { describeChoice, describeParam, sentenceOf } from "@/core/schema";
import { NumberField, RangeField, Segmented, Toggle } from "../kit";
import { dressingOf, editDressing, useEdit } from "../state";
import { Tide } from "../time";

/** What every step's card is given. */
export interface CardProps {
  dressing: Dressing;
}

/** The look of the buttons that add something to a list. */
export const ADD =
  "inline-flex h-7 items-center gap-1 rounded-lg border border-dashed border-linen-4 bg-linen-0 px-2 text-xs hover:bg-paper";

type Param<S extends StepName> = Extract<keyof Dressing[S], string>;

interface ParamProps<S extends StepName> {
  dressing: Dressing;
  step: S;
  name: Param<S>;
}

/** What else becomes of the dressing when a parameter is set. */
type Also = (draft: Draft<Dressing>, before: Dressing) => void;

/** The tide mark of a parameter of a step. */
const tideOf = <S extends StepName>({ dressing, step, name }: ParamProps<S>, label: string) => (
  <Tide at={{ list: "dressings", id: dressing.id, path: `${step}/${name}` }} label={label} />
);

const schemaFor = (step: StepName, name: string): z.ZodType => schemaOf(step, name)!;

/** What a schema says is wrong with a value, or null. */
export function complaintOf(schema: z.ZodType, value: unknown): string | null {
  const result = schema.safeParse(value);
  return result.success ? null : sentenceOf(result.error);
}

export function StepNumber<S extends StepName>({ dressing, step, name, also }: ParamProps<S> & { also?: Also }) {
  const schema = schemaFor(step, name);
  const param = describeParam(schema);
  const edit = useEdit<number>(param.label, (scene, value) => {
    const draft = dressingOf(scene, dressing.id);
    if (!draft) return;
    (draft[step] as Record<string, unknown>)[name] = value;
    also?.(draft, original(draft) as Dressing);
  });
  return (
    <NumberField
      param={param}
      value={dressing[step][name] as number}
      standard={schema.parse(undefined) as number}
      edit={edit}
      complaint={(value) => complaintOf(schema, value)}
      mark={tideOf({ dressing, step, name }, param.label)}
    />
  );
}

export function StepRange<S extends StepName>({ dressing, step, name }: ParamProps<S>) {
  const schema = schemaFor(step, name);
  const param = describeParam(schema);
  const edit = useEdit<readonly [number, number]>(param.label, (scene, value) => {
    const draft = dressingOf(scene, dressing.id);
    if (draft) (draft[step] as Record<string, unknown>)[name] = [...value];
  });
  return (
    <RangeField
      param={param}
      value={dressing[step][name] as readonly [number, number]}
      edit={edit}
      complaint={(value) => complaintOf(schema, [...value])}
      mark={tideOf({ dressing, step, name }, param.label)}
    />
  );
}

export function StepChoice<S extends StepName>({
  dressing,
  step,
  name,
  bare = false,
  columns,
  only,
  words,
  also,
}: ParamProps<S> & {
  bare?: boolean;
  columns?: number;
  /** The choices that mean something at the moment; the one chosen is always among those shown. */
  only?: readonly string[];
  /** Other words for some of them, where they mean something a little different. */
  words?: Readonly<Record<string, string>>;
  also?: Also;
}) {
  const { label, help, choices: all } = describeChoice(schemaFor(step, name));
  const value = dressing[step][name] as string;
  const shown = Object.entries(all).filter(([choice]) => !only || only.includes(choice) || choice === value);
  const choices = { ...Object.fromEntries(shown), ...words };
  const control = (
    <Segmented
      label={label}
      help={help}
      value={value}
      choices={choices}
      columns={columns}
      onChange={(value) =>
        editDressing(dressing.id, label, (draft) => {
          (draft[step] as Record<string, unknown>)[name] = value;
          also?.(draft, original(draft) as Dressing);
        })
      }
    />
  );
  if (bare) return control;
  return (
    <div className="group/tide grid grid-cols-[84px_1fr] items-center gap-2">
      <span className="flex items-center gap-1 text-[12.5px] text-ink-6" title={help}>
        {label}
        {tideOf({ dressing, step, name }, label)}
      </span>
      {control}
    </div>
  );
}

/** Several numbers of a step, one below the other. */
export const StepNumbers = <S extends StepName>({
  dressing,
  step,
  names,
}: Omit<ParamProps<S>, "name"> & { names: readonly Param<S>[] }) =>
  names.map((name) => <StepNumber key={name} dressing={dressing} step={step} name={name} />);

export const StepRanges = <S extends StepName>({
  dressing,
  step,
  names,
}: Omit<ParamProps<S>, "name"> & { names: readonly Param<S>[] }) =>
  names.map((name) => <StepRange key={name} dressing={dressing} step={step} name={name} />);

/** A colour of a step. */
export function StepColour<S extends StepName>({ dressing, step, name }: ParamProps<S>) {
  const { label, help } = schemaFor(step, name).meta() as { label: string; help: string };
  const value = dressing[step][name] as string;
  return (
    <label className="group/tide flex items-center gap-2 text-[12.5px] text-ink-6" title={help}>
      {label}
      {tideOf({ dressing, step, name }, label)}
      <input
        type="color"
        aria-label={`Tint ${label.toLowerCase()}`}
        value={value}
        onChange={(event) => {
          const colour = event.target.value;
          const write = (draft: Record<string, unknown>) => void (draft[name] = colour);
          editDressing(dressing.id, label, (draft) => write(draft[step] as Record<string, unknown>), `colour ${name}`);
        }}
        className="h-6.5 w-10 cursor-pointer rounded border border-linen-3 bg-paper p-0.5"
      />
    </label>
  );
}

/** What a switch is called, and what it does. */
interface Words {
  label: string;
  help: string;
}

export function StepSwitch<S extends StepName>({ dressing, step, name, words }: ParamProps<S> & { words?: Words }) {
  const { label, help } = words ?? (schemaFor(step, name).meta() as unknown as Words);
  return (
    <Toggle
      label={label}
      help={help}
      on={dressing[step][name] as boolean}
      onChange={(on) =>
        editDressing(dressing.id, label, (draft) => void ((draft[step] as Record<string, unknown>)[name] = on))
      }
      mark={tideOf({ dressing, step, name }, label)}
    />
  );
}
