"use client";
/** How often which gap occurs. What draws it comes once it is to be seen, since it is as large as all the steps together. */
import { lazy, Suspense } from "react";
import type { GapBins } from "./GapBars";

const GapBars = lazy(() => import("./GapBars").then((module) => ({ default: module.GapBars })));

export function GapChart({ bins, height }: GapBins) {
  return (
    <div className="my-1.5 [&_*]:outline-none" style={{ height }} aria-hidden>
      <Suspense>
        <GapBars bins={bins} height={height} />
      </Suspense>
    </div>
  );
}
