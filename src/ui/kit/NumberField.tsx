"use client";
/**
 * A number with its label, its slider and its field. The label can be dragged; the field takes any expression with units;
 * arrow keys step it (Shift ten times, Alt a tenth); a small arrow puts the default back.
 */
import { Undo2 } from "lucide-react";
import { useId, useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from "react";
import { formatValue, type ParamDescription, type Unit } from "@/core/schema";
import { dragged, inShownUnit, stepped, STEPS, typed } from "./number-steps";
import { leaveField } from "./leave-field";
import { Slider } from "./Slider";

export interface Edit<T> {
  /** One change, done. `mark` joins quick ones of the same kind. */
  set: (value: T, mark?: string) => void;
  begin: () => void;
  drag: (value: T) => void;
  end: () => void;
  cancel: () => void;
}

interface FieldProps {
  label: string;
  unit: Unit;
  /** NaN where several things that it is of differ. */
  value: number;
  edit: Edit<number>;
  /** What is wrong with a value, or null. */
  complaint: (value: number) => string | null;
  id?: string;
  describedBy?: string;
  className?: string;
  /** Shows the number without its unit, where the heading of several says it. */
  bare?: boolean;
}

/** The field alone: text while it is typed, a value when it is left or Enter is pressed. */
export function ValueField({
  label,
  unit,
  value,
  edit,
  complaint,
  id,
  describedBy,
  className = "",
  bare = false,
}: FieldProps) {
  const [text, setText] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const problemId = useId();
  const written = Number.isNaN(value) ? "" : formatValue(value, unit);

  /** What words are as a value; null where it is none, which is said. */
  const valueOf = (words: string): number | null => {
    try {
      const next = typed(words, unit, complaint);
      setProblem(null);
      return next;
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
      return null;
    }
  };

  const leave = () => {
    const next = text === null ? null : valueOf(text);
    if (next === null) return;
    setText(null);
    // What several things have differently is no number, and differs from all.
    if (!(Math.abs(next - value) <= 1e-12)) edit.set(next);
  };

  const key = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === "Enter") {
      // Enter leaves the field, which takes what was typed, here and in all fields, so that keys are commands again.
      if (text === null || valueOf(text) !== null) leaveField(event.currentTarget);
    } else if (event.key === "Escape" && (text !== null || problem !== null)) {
      event.stopPropagation();
      setText(null);
      setProblem(null);
      event.currentTarget.blur();
    } else if (event.key === "ArrowUp" || event.key === "ArrowDown") {
      event.preventDefault();
      const next = stepped(Number.isNaN(value) ? 0 : value, unit, event.key === "ArrowUp" ? 1 : -1, event);
      if (complaint(next) === null) edit.set(next, `keys ${label}`);
      setText(null);
      setProblem(null);
    }
  };

  return (
    <div className={`relative ${className}`}>
      <input
        id={id}
        aria-label={id ? undefined : label}
        data-typing={text !== null}
        aria-invalid={problem !== null}
        aria-describedby={problem ? problemId : describedBy}
        title={bare ? written : undefined}
        value={text ?? (bare ? written.replace(/ [^ ]+$/, "") : written)}
        placeholder="–"
        onFocus={(event) => event.currentTarget.select()}
        onChange={(event) => {
          setText(event.target.value);
          setProblem(null);
        }}
        onBlur={leave}
        onKeyDown={key}
        spellCheck={false}
        autoComplete="off"
        className={`h-6.5 w-full rounded-[7px] border bg-paper text-right font-mono ${bare ? "px-1 text-[11px]" : "px-1.5 text-xs"} ${problem ? "border-madder" : "border-linen-3"}`}
      />
      {problem && (
        <div
          id={problemId}
          role="alert"
          className="absolute right-0 top-full z-30 mt-1 w-56 rounded-lg bg-ink-9 px-2.5 py-1.5 text-left text-xs text-paper shadow-float"
        >
          {problem}
        </div>
      )}
    </div>
  );
}

interface NumberFieldProps {
  param: ParamDescription;
  value: number;
  standard?: number;
  edit: Edit<number>;
  complaint: (value: number) => string | null;
  /** What stands beside its label. */
  mark?: ReactNode;
}

export function NumberField({ param, value, standard, edit, complaint, mark }: NumberFieldProps) {
  const { label, help, unit, slider } = param;
  const [low, high] = slider;
  const id = useId();
  const allowed = (next: number) => complaint(next) === null;
  return (
    <div className="group/tide grid grid-cols-[92px_1fr_82px] items-center gap-2.5">
      <DragLabel
        id={id}
        label={label}
        help={help}
        value={value}
        unit={unit}
        changed={standard !== undefined && Math.abs(standard - value) > 1e-9}
        onStandard={() => standard !== undefined && edit.set(standard)}
        edit={{ ...edit, drag: (next) => allowed(next) && edit.drag(next) }}
        mark={mark}
      />
      <Slider
        labels={[label]}
        values={[value]}
        low={low}
        high={high}
        step={STEPS[unit]}
        shown={(v) => inShownUnit(v, unit)}
        format={(v) => formatValue(v, unit)}
        onBegin={edit.begin}
        onDrag={([next]) => allowed(next) && edit.drag(next)}
        onEnd={edit.end}
        onSet={([next]) => allowed(next) && edit.set(next, `keys ${label}`)}
      />
      <ValueField id={id} label={label} unit={unit} value={value} edit={edit} complaint={complaint} />
    </div>
  );
}

interface RangeFieldProps {
  param: ParamDescription;
  value: readonly [number, number];
  edit: Edit<readonly [number, number]>;
  complaint: (value: readonly [number, number]) => string | null;
  mark?: ReactNode;
}

/** A range as one control with two ends. */
export function RangeField({ param, value, edit, complaint, mark }: RangeFieldProps) {
  const { label, help, unit, slider } = param;
  const [low, high] = slider;
  const ends: readonly [string, string] = [`${label}, from`, `${label}, to`];
  const endEdit = (end: 0 | 1): Edit<number> => {
    const withEnd = (next: number): readonly [number, number] => (end === 0 ? [next, value[1]] : [value[0], next]);
    return { ...edit, set: (next, mark) => edit.set(withEnd(next), mark), drag: (next) => edit.drag(withEnd(next)) };
  };
  const pair = ([a, b]: readonly number[]): readonly [number, number] => [a, b];
  const allowed = (next: readonly number[]) => complaint(pair(next)) === null;
  return (
    <div
      className="group/tide grid grid-cols-[48px_1fr_64px_64px] items-center gap-2"
      role="group"
      aria-label={label}
      title={help}
    >
      <span className="flex items-center text-[12.5px] text-ink-6">
        {label}
        {mark}
      </span>
      <Slider
        labels={ends}
        values={value}
        low={low}
        high={high}
        step={STEPS[unit]}
        shown={(v) => inShownUnit(v, unit)}
        format={(v) => formatValue(v, unit)}
        onBegin={edit.begin}
        onDrag={(next) => allowed(next) && edit.drag(pair(next))}
        onEnd={edit.end}
        onSet={(next) => allowed(next) && edit.set(pair(next), `keys ${label}`)}
      />
      {([0, 1] as const).map((end) => (
        <ValueField
          key={end}
          label={ends[end]}
          unit={unit}
          value={value[end]}
          edit={endEdit(end)}
          complaint={(next) => complaint(end === 0 ? [next, value[1]] : [value[0], next])}
        />
      ))}
    </div>
  );
}

interface DragLabelProps {
  id: string;
  label: string;
  help: string;
  value: number;
  unit: Unit;
  changed: boolean;
  onStandard: () => void;
  edit: Edit<number>;
  mark?: ReactNode;
}

/** A label that changes its field's value when it is dragged sideways. */
function DragLabel({ id, label, help, value, unit, changed, onStandard, edit, mark }: DragLabelProps) {
  const drag = useRef<{ x: number; value: number; begun: boolean } | null>(null);

  const move = (event: PointerEvent) => {
    const held = drag.current;
    if (!held) return;
    const pixels = event.clientX - held.x;
    if (!held.begun) {
      if (Math.abs(pixels) < 3) return;
      held.begun = true;
      edit.begin();
    }
    edit.drag(dragged(held.value, unit, pixels, event));
  };
  const up = () => {
    if (drag.current?.begun) edit.end();
    drag.current = null;
  };

  return (
    <span className="flex items-center gap-1 text-[12.5px] text-ink-6">
      <label
        htmlFor={id}
        title={`${help} Drag to change.`}
        className="cursor-ew-resize touch-none select-none"
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          drag.current = { x: event.clientX, value, begun: false };
        }}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={up}
      >
        {label}
      </label>
      {mark}
      {changed && (
        <button
          type="button"
          aria-label={`Put back the default of ${label}`}
          title="Put back the default"
          onClick={onStandard}
          className="grid size-4.5 place-items-center rounded text-ink-5 hover:bg-linen-2 hover:text-ink-9"
        >
          <Undo2 size={11} />
        </button>
      )}
    </span>
  );
}
