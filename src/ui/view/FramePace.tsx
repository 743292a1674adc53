"use client";
/** Watches how long frames take where there is much to draw, so that the view draws what the machine can. */
import { addAfterEffect, addEffect, useThree } from "@react-three/fiber";
import { useEffect } from "react";
import { isNews, learn } from "./pace";
import { useBudget } from "./useBudget";

export function FramePace() {
  const three = useThree((state) => state.get);
  const { full, count } = useBudget();
  useEffect(() => {
    let start = 0;
    /** The first frame of something new also hands it over and throws its shadows; the one after tells how it goes. */
    let second = false;
    const before = addEffect(() => void (start = performance.now()));
    const after = addAfterEffect(() => {
      const { gl, invalidate } = three();
      const drawn = gl.info.render.triangles;
      if (!isNews(drawn)) return;
      if (!second) {
        second = true;
        invalidate();
        return;
      }
      second = false;
      // Reading a pixel back waits until all is drawn.
      const context = gl.getContext();
      context.readPixels(0, 0, 1, 1, context.RGBA, context.UNSIGNED_BYTE, new Uint8Array(4));
      learn(drawn, performance.now() - start, full < count);
    });
    return () => {
      before();
      after();
    };
  }, [three, full, count]);
  return null;
}
