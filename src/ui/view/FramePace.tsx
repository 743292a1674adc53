"use client";
/** Watches how long frames take where there is much to draw, so that the view draws what the machine can. */
import { addAfterEffect, addEffect, useThree } from "@react-three/fiber";
import { useEffect } from "react";
import { drawnWith, isSoftware } from "../three";
import { beginOn, isHopeless, isNews, learn } from "./pace";
import { useBudget } from "./useBudget";

/** It is looked so often whether a frame is done, milliseconds. */
const LOOK = 8;

/** Tells when all that has been asked for is drawn, without waiting for it. */
function whenDrawn(context: WebGL2RenderingContext, done: () => void): void {
  const fence = context.fenceSync(context.SYNC_GPU_COMMANDS_COMPLETE, 0);
  if (!fence) return;
  context.flush();
  const look = () => {
    const state = context.clientWaitSync(fence, 0, 0);
    if (state === context.TIMEOUT_EXPIRED) return void setTimeout(look, LOOK);
    context.deleteSync(fence);
    if (state !== context.WAIT_FAILED) done();
  };
  setTimeout(look, LOOK);
}

export function FramePace() {
  const three = useThree((state) => state.get);
  const { full, count } = useBudget();
  useEffect(() => {
    const context = three().gl.getContext();
    const names = context.getExtension("WEBGL_debug_renderer_info");
    const renderer = String(context.getParameter(names ? names.UNMASKED_RENDERER_WEBGL : context.RENDERER));
    drawnWith(renderer);
    beginOn(isSoftware(renderer));
  }, [three]);
  useEffect(() => {
    let start = 0;
    let waits = false;
    /** The first frame of something new also hands it over and throws its shadows; the one after tells how it goes. */
    let second = false;
    const before = addEffect(() => void (start = performance.now()));
    const after = addAfterEffect(() => {
      const { gl, invalidate } = three();
      const drawn = gl.info.render.triangles;
      if (waits || !isNews(drawn)) return;
      waits = true;
      const [begun, measured] = [start, second];
      whenDrawn(gl.getContext() as WebGL2RenderingContext, () => {
        waits = false;
        const ms = performance.now() - begun;
        second = !measured && !isHopeless(ms);
        if (second) invalidate();
        else learn(drawn, ms, full < count);
      });
    });
    return () => {
      before();
      after();
    };
  }, [three, full, count]);
  return null;
}
