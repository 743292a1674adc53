"use client";
/** Long work: what is being placed, how far it is, and how to stop it; and what to do when it was stopped. */
import { useEffect, useState } from "react";
import { useSceneStore } from "@/store";
import { Button } from "../kit";
import { placeAgain, stopPlacing, useResults } from "../state";

/** Work shorter than this is not worth a word, milliseconds. */
const SHORT = 400;

const FRAME =
  "absolute left-1/2 top-16 z-20 flex -translate-x-1/2 items-center gap-3 whitespace-nowrap rounded-[10px] border border-linen-2 bg-float px-3 py-2 text-xs text-ink-6 shadow-float";

export function Placing() {
  const progress = useResults((state) => state.progress);
  const stopped = useResults((state) => state.stopped);
  const working = progress !== null;
  const [long, setLong] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLong(working), working ? SHORT : 0);
    return () => clearTimeout(timer);
  }, [working]);
  if (stopped) {
    return (
      <div className={FRAME} role="status">
        Stopped. What is shown is from before the last change.
        <Button className="h-7! text-xs" onClick={() => useSceneStore.getState().undo()}>
          Undo the change
        </Button>
        <Button className="h-7! text-xs" onClick={placeAgain}>
          Place it
        </Button>
      </div>
    );
  }
  if (!progress || !long) return null;
  const percent = Math.round(100 * progress.share);
  return (
    <div className={FRAME} role="status" data-testid="placing">
      Placing {progress.placing}
      <progress value={percent} max={100} aria-label="How far" className="h-1.5 w-28 accent-sea" />
      <span className="w-9 text-right font-mono">{percent} %</span>
      <Button className="h-7! text-xs" onClick={stopPlacing}>
        Stop
      </Button>
    </div>
  );
}
