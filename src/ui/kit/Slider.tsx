"use client";
/** A slider with one end or two. While it is dragged every step is told; Escape puts back what was. */
import { useRef, type KeyboardEvent, type PointerEvent } from "react";

export interface DragEvents<T> {
  onBegin: () => void;
  onDrag: (value: T) => void;
  onEnd: () => void;
}

interface SliderProps extends DragEvents<readonly number[]> {
  /** A name for each end. */
  labels: readonly string[];
  values: readonly number[];
  low: number;
  high: number;
  step: number;
  /** A value as a number in the unit that it is shown in. */
  shown: (value: number) => number;
  /** A value as text, for assistive technology. */
  format: (value: number) => string;
  onSet: (values: readonly number[]) => void;
}

/** How far left of its value the target of an end begins, pixels: those of a range lie outwards, so that none hides the other. */
const targetOf = (end: number, ends: number): number => (ends === 1 ? 12 : end === 0 ? 24 : 0);

const within = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));

export function Slider({ labels, values, low, high, step, shown, format, onBegin, onDrag, onEnd, onSet }: SliderProps) {
  const track = useRef<HTMLDivElement>(null);
  const held = useRef<number | null>(null);
  const share = (value: number) => within((value - low) / (high - low), 0, 1);

  /** The values with one end moved; the ends of a range push against each other. */
  const moved = (end: number, value: number): number[] =>
    values.map((old, i) => (i === end ? value : end < i ? Math.max(old, value) : Math.min(old, value)));

  const valueAt = (x: number): number => {
    const box = track.current!.getBoundingClientRect();
    const raw = low + within((x - box.left) / box.width, 0, 1) * (high - low);
    return within(Math.round(raw / step) * step, low, high);
  };

  const down = (event: PointerEvent) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const value = valueAt(event.clientX);
    const distances = values.map((v) => Math.abs(v - value));
    held.current = distances[distances.length - 1] <= distances[0] ? values.length - 1 : 0;
    onBegin();
    onDrag(moved(held.current, value));
  };
  const move = (event: PointerEvent) => {
    if (held.current !== null) onDrag(moved(held.current, valueAt(event.clientX)));
  };
  const up = () => {
    if (held.current === null) return;
    held.current = null;
    onEnd();
  };

  const key = (event: KeyboardEvent, end: number) => {
    const steps = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (!steps) return;
    event.preventDefault();
    event.stopPropagation();
    const by = steps * step * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1);
    onSet(moved(end, Number((values[end] + by).toFixed(9))));
  };

  const from = values.length > 1 ? share(values[0]) : share(within(0, low, high));
  const to = share(values[values.length - 1]);
  const [left, right] = from < to ? [from, to] : [to, from];
  return (
    <div
      ref={track}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={up}
      className="relative h-5 w-full cursor-pointer touch-none"
    >
      <div className="absolute inset-x-0 top-2 h-1 rounded bg-linen-3" />
      <div
        className="absolute top-2 h-1 rounded bg-sea"
        style={{ left: `${left * 100}%`, right: `${(1 - right) * 100}%` }}
      />
      {values.map((value, i) => (
        <div
          key={labels[i]}
          role="slider"
          tabIndex={0}
          aria-label={labels[i]}
          aria-valuemin={shown(Math.min(low, value))}
          aria-valuemax={shown(Math.max(high, value))}
          aria-valuenow={shown(value)}
          aria-valuetext={format(value)}
          onKeyDown={(event) => key(event, i)}
          className="absolute -top-0.5 size-6 rounded-full"
          style={{ left: `calc(${share(value) * 100}% - ${targetOf(i, values.length)}px)` }}
        >
          <span
            className="absolute top-1.5 size-3 rounded-full border-2 border-sea bg-paper"
            style={{ left: targetOf(i, values.length) - 6 }}
          />
        </div>
      ))}
    </div>
  );
}
