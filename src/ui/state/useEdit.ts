"use client";
/** Ties a control to the scene: a set is one change, a drag is one change, Escape gives it up. */
import { useMemo } from "react";
import type { Draft } from "immer";
import type { Scene } from "@/core/scene";
import { useSceneStore } from "@/store";
import type { Edit } from "../kit";

/**
 * @param label the change's name, for undo
 * @param write writes a value into the scene
 */
export function useEdit<T>(label: string, write: (scene: Draft<Scene>, value: T) => void): Edit<T> {
  return useMemo(() => {
    const store = useSceneStore.getState;
    return {
      set: (value, mark) => store().change(label, (scene) => write(scene, value), mark),
      begin: () => store().beginDrag(label),
      drag: (value) => store().drag((scene) => write(scene, value)),
      end: () => store().endDrag(),
      cancel: () => store().cancelDrag(),
    };
  }, [label, write]);
}
