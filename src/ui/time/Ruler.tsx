"use client";
/** The ruler of the time bar: drag it to go to a moment; keyframes are rings on a cord, which can be pulled. */
import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import { courseValue, paramAt, playedOf, type Time } from "@/core/scene";
import { formatValue } from "@/core/schema";
import { useSceneStore } from "@/store";
import { markLabel, useSize } from "../kit";
import { courseOf, dragKeyframes, moveKeyframes, takeKeyframes, useSession } from "../state";
import { goTo, pause } from "./playing";
import { drawnCourse, momentAtX, ticksOf, xOf, type TimeScale } from "./scale";
import { useTargets } from "./targets";
import { showMoment } from "../state";

/** Where the cord lies: between these, pixels from the top. */
const CORD = { top: 24, bottom: 48 };
const TALL = 58;

interface RulerProps {
  time: Time;
  moment: number;
}

export function Ruler({ time, moment }: RulerProps) {
  const box = useRef<HTMLDivElement>(null);
  const { width } = useSize(box);
  const scale: TimeScale = { length: time.length, width };
  const { named, marked, step } = ticksOf(scale);
  const [from, to] = playedOf(time);
  const scrub = (event: PointerEvent) => {
    // As wide as it is now, which may not have been drawn yet.
    const { left, width } = box.current!.getBoundingClientRect();
    const at = Math.min(time.length, Math.max(0, momentAtX(event.clientX - left, { length: time.length, width })));
    void showMoment(Math.round(at * time.framesPerSecond) / time.framesPerSecond);
  };
  return (
    <div className="relative min-w-0 overflow-hidden border-x border-linen-2">
      <div
        ref={box}
        role="slider"
        tabIndex={0}
        aria-label="Moment"
        aria-valuemin={0}
        aria-valuemax={time.length}
        aria-valuenow={moment}
        aria-valuetext={formatValue(moment, "s")}
        className="absolute inset-0 cursor-ew-resize touch-none select-none"
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          pause();
          event.currentTarget.setPointerCapture(event.pointerId);
          useSession.setState({ moments: [] });
          scrub(event);
        }}
        onPointerMove={(event) => event.currentTarget.hasPointerCapture(event.pointerId) && scrub(event)}
        onKeyDown={(event) => {
          const frames = { ArrowLeft: -1, ArrowRight: 1, PageUp: 10, PageDown: -10 }[event.key];
          if (event.key === "Home") goTo(0);
          else if (event.key === "End") goTo(time.length);
          else if (frames) goTo(moment + (frames * (event.shiftKey ? 10 : 1)) / time.framesPerSecond);
          else return;
          event.preventDefault();
          event.stopPropagation();
        }}
      >
        <svg width={width} height={TALL} aria-hidden className="absolute inset-0">
          {
            time.stretch &&
          <rect x={xOf(from, scale)} y={20} width={Math.max(0, xOf(to, scale) - xOf(from, scale))} height={34} className="fill-linen-1" rx={4} /> // prettier-ignore
          }
          {marked.map((at) => (
            <line key={at} x1={xOf(at, scale)} x2={xOf(at, scale)} y1={15} y2={19} className="stroke-linen-4" />
          ))}
          {named.map((at) => (
            <text key={at} x={xOf(at, scale)} y={11} textAnchor="middle" className="fill-ink-6 font-mono text-[10.5px]">
              {markLabel(at, step)} s
            </text>
          ))}
          <Cord scale={scale} />
          <line
            x1={xOf(moment, scale)}
            x2={xOf(moment, scale)}
            y1={18}
            y2={TALL}
            className="stroke-madder"
            strokeWidth={1.5}
          />
          <path d={`M${xOf(moment, scale) - 5} 14h10l-5 6z`} className="fill-madder" />
        </svg>
      </div>
      <Rings scale={scale} time={time} box={box} />
    </div>
  );
}

const yOf = (height: number): number => CORD.bottom - height * (CORD.bottom - CORD.top);

/** The course that is chosen, as a cord. */
function Cord({ scale }: { scale: TimeScale }) {
  const scene = useSceneStore((store) => store.history.scene);
  const { targets } = useTargets();
  if (targets.length !== 1 || scale.width === 0) {
    return targets.length > 1 ? <line x1={xOf(0, scale)} x2={xOf(scale.length, scale)} y1={yOf(0.5)} y2={yOf(0.5)} className="stroke-cord" strokeDasharray="2 4" /> : null; // prettier-ignore
  }
  const drawn = drawnOf(scene, targets[0], scale);
  return drawn?.paths.map((path, k) => <path key={k} d={path} fill="none" className="stroke-cord" strokeWidth={k === 0 ? 1.6 : 1} />); // prettier-ignore
}

function drawnOf(scene: Parameters<typeof courseOf>[0], at: Parameters<typeof courseOf>[1], scale: TimeScale) {
  const course = courseOf(scene, at);
  const thing = scene[at.list].find(({ id }) => id === at.id);
  const param = paramAt(at.list, thing, at.path);
  return course && param ? drawnCourse(course, scale, (t) => courseValue(course, t, param), yOf) : null;
}

/** A drag of rings: where it began, and what was held. */
interface Pull {
  x: number;
  at: number;
  moments: readonly number[];
  copied: boolean;
  begun: boolean;
}

function Rings({ scale, time, box }: { scale: TimeScale; time: Time; box: React.RefObject<HTMLDivElement | null> }) {
  const scene = useSceneStore((store) => store.history.scene);
  const { targets, moments } = useTargets();
  const held = useSession((session) => session.moments);
  const pull = useRef<Pull | null>(null);
  const only = targets.length === 1 ? targets[0] : null;
  const drawn = only && drawnOf(scene, only, scale);
  const course = only && courseOf(scene, only);
  const snapped = (t: number) => Math.round(t * time.framesPerSecond) / time.framesPerSecond;
  const shiftOf = ({ x, at }: Pull, clientX: number): number =>
    snapped(at + momentAtX(clientX, scale) - momentAtX(x, scale)) - at;
  const hold = (next: readonly number[]) => useSession.setState({ moments: next });

  const down = (event: PointerEvent, at: number) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    const more = event.shiftKey;
    const next = more ? (held.includes(at) ? held.filter((one) => one !== at) : [...held, at]) : held.includes(at) ? held : [at]; // prettier-ignore
    hold(next);
    pull.current = { x: event.clientX, at, moments: next, copied: event.altKey, begun: false };
  };
  const move = (event: PointerEvent) => {
    const now = pull.current;
    if (!now) return;
    event.stopPropagation();
    if (!now.begun) {
      if (Math.abs(event.clientX - now.x) < 3) return;
      now.begun = true;
      useSceneStore.getState().beginDrag(now.copied ? "Copy keyframes" : "Move keyframes");
    }
    const by = shiftOf(now, event.clientX);
    dragKeyframes(targets, { moments: now.moments, to: (t) => t + by, copied: now.copied });
  };
  const up = (event: PointerEvent) => {
    const now = pull.current;
    pull.current = null;
    if (!now?.begun) return;
    useSceneStore.getState().endDrag();
    const by = shiftOf(now, event.clientX);
    hold(now.moments.map((t) => t + by));
  };
  const key = (event: KeyboardEvent, at: number) => {
    const chosen = held.includes(at) ? held : [at];
    const frames = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (event.key === "Escape" && pull.current) {
      pull.current = null;
      useSceneStore.getState().cancelDrag();
    } else if (event.key === "Delete" || event.key === "Backspace") {
      takeKeyframes(targets, chosen);
      hold([]);
      box.current?.focus();
    } else if (event.key === "Enter" || event.key === " ") {
      goTo(at);
      hold([at]);
    } else if (frames) {
      const by = (frames * (event.shiftKey ? 10 : 1)) / time.framesPerSecond;
      // With Alt they are stretched from the first one on.
      const first = Math.min(...chosen);
      const span = Math.max(...chosen) - first;
      const stretch = event.altKey && span > 0 ? Math.max(0.01, (span + by) / span) : 1;
      const to = (t: number) => (event.altKey ? first + (t - first) * stretch : t + by);
      moveKeyframes(targets, { moments: chosen, to }, "keys keyframes");
      hold(chosen.map(to));
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return moments.map((at, i) => {
    const one = course?.keyframes.find((keyframe) => Math.abs(keyframe.at - at) < 1e-9);
    const y = drawn && one ? yOf(drawn.heightOf(one.value)) : yOf(0.5);
    const isHeld = held.some((t) => Math.abs(t - at) < 1e-9);
    return (
      <button
        // Its place in the row, so that it keeps the focus while it is moved.
        key={i}
        type="button"
        aria-label={`Keyframe at ${formatValue(at, "s")}`}
        aria-pressed={isHeld}
        title="Drag to move it, with Alt to copy it; Shift for more; Delete takes it off"
        onPointerDown={(event) => down(event, at)}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={up}
        onKeyDown={(event) => key(event, at)}
        onDoubleClick={() => goTo(at)}
        // Larger than it looks, to be taken easily.
        style={{ left: xOf(at, scale) - 12, top: y - 12 }}
        className="absolute grid size-6 cursor-grab touch-none place-items-center rounded-full"
      >
        <i className={`size-3 rounded-full border-[2.5px] border-wood-dark ${isHeld ? "bg-ochre" : "bg-paper"}`} />
      </button>
    );
  });
}
