"use client";
/** *The time bar*: play, the moment, and over a ruler the course of what is chosen, with its keyframes. */
import { Popover, PopoverButton, PopoverPanel } from "@headlessui/react";
import { Pause, Play } from "lucide-react";
import { describeParam, formatValue } from "@/core/schema";
import { frameAt, isMoving, timeSchema, type Scene, type Time } from "@/core/scene";
import { useScene, useSceneStore } from "@/store";
import { Button, NumberField, Toggle } from "../kit";
import { editTime, useEdit, useResults } from "../state";
import { CourseWords } from "./CourseWords";
import { playOrPause, usePlaying } from "./playing";
import { Ruler } from "./Ruler";

const showsTime = (scene: Scene): boolean => scene.time.shown || isMoving(scene);

/** Whether time is shown: something changes over time, or the artist wants it. */
export const useTimeShown = (): boolean => useScene(showsTime);
export const timeShown = (): boolean => showsTime(useSceneStore.getState().shown);

export function TimeBar() {
  const time = useScene((scene) => scene.time);
  const placed = useResults((results) => results.moment);
  const moment = useSceneStore((store) => store.moment);
  const head = useSceneStore((store) => store.towards ?? store.moment);
  return (
    <section
      aria-label="Time"
      data-testid="time"
      data-moment={moment}
      data-placed={placed}
      className="grid h-[58px] grid-cols-[312px_minmax(0,1fr)_188px] border-t border-linen-2 bg-linen-0 max-[959px]:grid-cols-[252px_minmax(0,1fr)_0px]"
    >
      <div className="flex min-w-0 items-center gap-3 px-4">
        <PlayButton />
        <Moment time={time} moment={head} />
      </div>
      <Ruler time={time} moment={head} />
      <CourseWords />
    </section>
  );
}

function PlayButton() {
  const on = usePlaying((playing) => playing.on);
  return (
    <button
      type="button"
      aria-label={on ? "Pause" : "Play"}
      title={`${on ? "Pause" : "Play"} (space)`}
      onClick={playOrPause}
      className="grid size-9 shrink-0 place-items-center rounded-full bg-ink-9 text-paper hover:bg-ink-6"
    >
      {on ? <Pause size={15} fill="currentColor" /> : <Play size={15} fill="currentColor" className="translate-x-px" />}
    </button>
  );
}

/** The moment, and how time is counted, which can be changed there. */
function Moment({ time, moment }: { time: Time; moment: number }) {
  const rate = usePlaying((playing) => playing.rate);
  const late = rate !== null && rate < time.framesPerSecond - 1;
  return (
    <div className="min-w-0">
      <p className="font-mono text-[15px] leading-5">{formatValue(moment, "s")}</p>
      <Popover className="relative">
        <PopoverButton className="block max-w-full truncate border-b border-dotted border-linen-4 text-left text-xs text-ink-6 hover:text-ink-9">
          {late
            ? `${rate} of ${time.framesPerSecond} frames a second`
            : `of ${formatValue(time.length, "s").replace(/\.00 s$/, " s")} · frame ${frameAt(moment, time)} · ${time.framesPerSecond} a second`}
        </PopoverButton>
        <PopoverPanel
          anchor={{ to: "top start", gap: 8, padding: 8 }}
          className="z-40 grid w-80 gap-2 rounded-[10px] border border-linen-2 bg-linen-0 p-3 shadow-float"
        >
          <TimeNumber time={time} name="length" />
          <TimeNumber time={time} name="framesPerSecond" />
          <Toggle
            label="Over and over"
            help="Begins again when it has come to the end."
            on={time.loops}
            onChange={(loops) => editTime("Over and over", { loops })}
          />
          <Stretch time={time} moment={moment} />
          <Beyond time={time} />
        </PopoverPanel>
      </Popover>
    </div>
  );
}

function TimeNumber({ time, name }: { time: Time; name: "length" | "framesPerSecond" }) {
  const schema = timeSchema.shape[name];
  const param = describeParam(schema);
  const edit = useEdit<number>(param.label, (scene, value) => {
    scene.time[name] = value;
    // What is played stays within the scene.
    const { stretch, length } = scene.time;
    if (stretch && stretch[1] > length) scene.time.stretch = stretch[0] < length ? [stretch[0], length] : null;
  });
  return (
    <NumberField
      param={param}
      value={time[name]}
      standard={schema.parse(undefined)}
      edit={edit}
      complaint={(value) => {
        const { success, error } = schema.safeParse(value);
        return success ? null : (error.issues[0]?.message ?? "that cannot be");
      }}
    />
  );
}

/** The stretch that is played. */
function Stretch({ time, moment }: { time: Time; moment: number }) {
  const [from, to] = time.stretch ?? [0, time.length];
  return (
    <div className="flex items-center gap-1.5 text-[12.5px] text-ink-6">
      <span className="grow">
        Played from {formatValue(from, "s")} to {formatValue(to, "s")}
      </span>
      <Button
        className="h-6.5! text-xs"
        disabled={moment >= to}
        onClick={() => editTime("Play from here", { stretch: [moment, to] })}
      >
        From here
      </Button>
      <Button
        className="h-6.5! text-xs"
        disabled={moment <= from}
        onClick={() => editTime("Play to here", { stretch: [from, moment] })}
      >
        To here
      </Button>
      {time.stretch && (
        <Button look="quiet" className="h-6.5! text-xs" onClick={() => editTime("Play all", { stretch: null })}>
          All
        </Button>
      )}
    </div>
  );
}

/** Keyframes beyond the end are kept, and that is said. */
function Beyond({ time }: { time: Time }) {
  const n = useSceneStore(({ history: { scene } }) =>
    [...scene.lines, ...scene.surfaces, ...scene.dressings].reduce(
      (sum, { courses }) =>
        sum + Object.values(courses).reduce((n, { keyframes }) => n + keyframes.filter(({ at }) => at > time.length).length, 0), // prettier-ignore
      0,
    ),
  );
  if (n === 0) return null;
  return (
    <p className="text-xs text-ochre-dark">
      {n === 1 ? "One keyframe lies" : `${n} keyframes lie`} beyond the end, and {n === 1 ? "is" : "are"} kept.
    </p>
  );
}
