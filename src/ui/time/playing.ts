/** *Playing*: the scene's moments one after another, in real time. What does not come in time is left out. */
import { useEffect, useRef, useState } from "react";
import { create } from "zustand";
import { playedOf, type Time } from "@/core/scene";
import { meantMoment, useSceneStore } from "@/store";
import { lookAgain, showMoment } from "../state";

interface Playing {
  on: boolean;
  /** Frames that were shown in the last second; null as long as that is not known. */
  rate: number | null;
}

export const usePlaying = create<Playing>()(() => ({ on: false, rate: null }));

/** What is only read at leisure is looked at anew so often while it plays, milliseconds: it may be edited meanwhile. */
const LEISURE = 1000;

/** A value as it is while nothing plays; while it plays one that is a second old at most. */
export function useAtLeisure<T extends object | null>(value: T): T {
  const playing = usePlaying(({ on }) => on);
  const [kept, keep] = useState(value);
  const latest = useRef(value);
  useEffect(() => void (latest.current = value), [value]);
  useEffect(() => {
    if (!playing) return;
    const clock = setInterval(() => keep(latest.current), LEISURE);
    return () => clearInterval(clock);
  }, [playing]);
  if (!playing && kept !== value) keep(value);
  return playing ? kept : value;
}

export const isPlaying = (): boolean => usePlaying.getState().on;

/** Where in its stretch a scene is so many seconds after it began to play, and whether that is its end. */
export function playedMoment(time: Time, from: number, seconds: number): { moment: number; over: boolean } {
  const [begin, end] = playedOf(time);
  const length = end - begin;
  const gone = Math.max(begin, from) - begin + seconds;
  if (gone < length) return { moment: begin + gone, over: false };
  return time.loops ? { moment: begin + (gone % length), over: false } : { moment: end, over: true };
}

/** A moment brought to the last frame that is not after it. */
export const onFrame = (moment: number, { framesPerSecond }: Time): number =>
  Math.floor(moment * framesPerSecond + 1e-6) / framesPerSecond;

/** How many of some times, milliseconds, lie within the second before the last one. */
export function withinSecond(times: readonly number[]): number {
  const last = times.at(-1) ?? 0;
  return times.filter((at) => at > last - 1000).length;
}

export function play(): void {
  const { shown } = useSceneStore.getState();
  const moment = meantMoment();
  const [begin, end] = playedOf(shown.time);
  // At its end, or beside the stretch that is played, it begins at the beginning.
  const from = moment >= end - 1 / shown.time.framesPerSecond || moment < begin ? begin : moment;
  const began = performance.now();
  let asked = moment;
  let busy = false;
  let arrivals: number[] = [];
  usePlaying.setState({ on: true, rate: null });
  const step = (now: number) => {
    if (!usePlaying.getState().on) return;
    const { time } = useSceneStore.getState().shown;
    const { moment: wanted, over } = playedMoment(time, from, (now - began) / 1000);
    const next = onFrame(wanted, time);
    if (!busy && next !== asked) {
      asked = next;
      busy = true;
      void showMoment(next).then(() => {
        busy = false;
        arrivals = [...arrivals.slice(-240), performance.now()];
        const { on, rate: before } = usePlaying.getState();
        const rate = on && performance.now() - began > 1000 ? withinSecond(arrivals) : null;
        if (rate !== before) usePlaying.setState({ rate });
      });
    }
    if (over) pause();
    else requestAnimationFrame(step);
  };
  requestAnimationFrame(step);
}

export function pause(): void {
  if (!usePlaying.getState().on) return;
  usePlaying.setState({ on: false, rate: null });
  lookAgain();
}

export const playOrPause = (): void => (usePlaying.getState().on ? pause() : play());

/** Goes so many frames on or back, or to a moment, on a frame. */
export function stepFrames(frames: number): void {
  goTo(meantMoment() + frames / useSceneStore.getState().shown.time.framesPerSecond);
}

export function goTo(moment: number): void {
  pause();
  const { time } = useSceneStore.getState().shown;
  const within = Math.min(time.length, Math.max(0, moment));
  void showMoment(Math.round(within * time.framesPerSecond) / time.framesPerSecond);
}
