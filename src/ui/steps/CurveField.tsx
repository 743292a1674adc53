"use client";
/** A value along a line as a small curve: its points are dragged, added by a click on the curve's field, and deleted. */
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { Trash2 } from "lucide-react";
import type { z } from "zod";
import { IconButton, ValueField, type Edit } from "../kit";
import { inserted, withPoint, type Point } from "./curve-points";
import { complaintOf } from "./params";

const [WIDTH, HEIGHT, PAD] = [276, 84, 8];

const rounded = (value: number): number => Math.round(value * 100) / 100;

interface CurveFieldProps {
  /** What the value is called, in the middle of a sentence. */
  noun: string;
  /** Of all points: says the label and the help. */
  schema: z.ZodType;
  points: readonly Point[];
  edit: Edit<readonly Point[]>;
}

export function CurveField({ noun, schema, points, edit }: CurveFieldProps) {
  const { label, help } = schema.meta() as { label: string; help: string };
  const Noun = noun[0].toUpperCase() + noun.slice(1);
  const [chosen, setChosen] = useState(0);
  const field = useRef<SVGSVGElement>(null);
  const held = useRef<number | null>(null);
  const top = Math.max(2, ...points.map(([, value]) => value)) * 1.05;
  const x = (share: number) => PAD + share * (WIDTH - 2 * PAD);
  const y = (value: number) => HEIGHT - PAD - (value / top) * (HEIGHT - 2 * PAD);
  const pointAt = (event: { clientX: number; clientY: number }): Point => {
    const box = field.current!.getBoundingClientRect();
    const share = ((event.clientX - box.left) / box.width) * WIDTH;
    const value = ((event.clientY - box.top) / box.height) * HEIGHT;
    return [
      rounded(Math.min(1, Math.max(0, (share - PAD) / (WIDTH - 2 * PAD)))),
      rounded(Math.max(0, ((HEIGHT - PAD - value) / (HEIGHT - 2 * PAD)) * top)),
    ];
  };
  const set = (next: readonly Point[], mark?: string) => {
    if (complaintOf(schema, next) === null) edit.set(next, mark);
  };
  const remove = (index: number) => {
    if (points.length > 1) set(points.filter((_, i) => i !== index));
    setChosen(Math.max(0, index - 1));
  };
  const down = (event: PointerEvent) => {
    if (event.button !== 0) return;
    const index = Number((event.target as Element).getAttribute("data-point") ?? -1);
    field.current!.setPointerCapture(event.pointerId);
    edit.begin();
    if (index >= 0) held.current = index;
    else {
      const next = inserted(points, pointAt(event));
      held.current = next.index;
      edit.drag(next.points);
    }
    setChosen(held.current);
  };
  const move = (event: PointerEvent) => {
    const index = held.current;
    if (index === null) return;
    edit.drag(withPoint(points, index, pointAt(event)));
  };
  const up = () => {
    if (held.current !== null) edit.end();
    held.current = null;
  };
  const key = (event: KeyboardEvent, index: number) => {
    const step = event.shiftKey ? 0.1 : 0.01;
    const [share, value] = points[index];
    const moves: Record<string, Point> = {
      ArrowLeft: [share - step, value],
      ArrowRight: [share + step, value],
      ArrowUp: [share, value + 10 * step],
      ArrowDown: [share, value - 10 * step],
    };
    if (event.key === "Delete" || event.key === "Backspace") remove(index);
    else if (moves[event.key])
      set(withPoint(points, index, moves[event.key].map(rounded) as unknown as Point), `${noun} keys`);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const shown: Point[] = [[0, points[0][1]], ...points, [1, points[points.length - 1][1]]];
  const path = shown.map(([share, value], i) => `${i === 0 ? "M" : "L"}${x(share)} ${y(value)}`).join("");
  const current = Math.min(chosen, points.length - 1);
  return (
    <div className="grid gap-1.5">
      <svg
        ref={field}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="group"
        aria-label={label}
        className="w-full touch-none rounded-lg border border-linen-3 bg-paper"
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={edit.cancel}
      >
        <title>{help} Click to add a point.</title>
        <line x1={PAD} x2={WIDTH - PAD} y1={y(1)} y2={y(1)} className="stroke-linen-3" strokeDasharray="3 3" />
        <path d={`${path}L${x(1)} ${y(0)}L${x(0)} ${y(0)}Z`} className="fill-sea/15" />
        <path d={path} className="fill-none stroke-sea" strokeWidth={2} />
        {points.map(([share, value], i) => (
          <circle
            key={i}
            data-point={i}
            cx={x(share)}
            cy={y(value)}
            r={5}
            tabIndex={0}
            role="slider"
            aria-label={`${Noun} point ${i + 1}`}
            aria-valuemin={0}
            aria-valuemax={Math.max(top, value)}
            aria-valuenow={value}
            aria-valuetext={`${value} at ${Math.round(share * 100)} % of the way`}
            onFocus={() => setChosen(i)}
            onKeyDown={(event) => key(event, i)}
            onDoubleClick={() => remove(i)}
            className={`cursor-grab stroke-white ${i === current ? "fill-ochre" : "fill-sea"}`}
            strokeWidth={1.5}
          />
        ))}
      </svg>
      <div className="flex items-center gap-1.5 text-xs text-ink-6">
        Point {current + 1}: at
        <ValueField
          label={`${Noun} point at`}
          unit="share"
          value={points[current][0]}
          edit={{
            ...edit,
            set: (share, mark) => set(withPoint(points, current, [share, points[current][1]]), mark),
            drag: () => undefined,
          }}
          complaint={(share) => (share >= 0 && share <= 1 ? null : "the way goes from 0 % to 100 %")}
          className="w-16"
        />
        {noun}
        <ValueField
          label={`${Noun} there`}
          unit="number"
          value={points[current][1]}
          edit={{
            ...edit,
            set: (value, mark) => set(withPoint(points, current, [points[current][0], value]), mark),
            drag: () => undefined,
          }}
          complaint={(value) => complaintOf(schema, [[0, value]])}
          className="w-16"
        />
        <IconButton
          label="Delete this point"
          className="size-6.5"
          disabled={points.length < 2}
          onClick={() => remove(current)}
        >
          <Trash2 size={12} />
        </IconButton>
      </div>
    </div>
  );
}
