/** Drawings that wait to be brought in: how large and where is asked first. */
import { create } from "zustand";
import type { Drawing } from "@/core/files";
import { useSession } from "../state";

export const usePending = create<{ waiting: readonly { file: string; drawing: Drawing }[] }>()(() => ({ waiting: [] }));

/** Asks for a drawing's size and place. */
export function offerDrawing(file: string, drawing: Drawing): void {
  usePending.setState(({ waiting }) => ({ waiting: [...waiting, { file, drawing }] }));
  useSession.setState({ dialog: "drawing" });
}

/** Goes on to the next drawing, if there is one. */
export function nextDrawing(): void {
  usePending.setState(({ waiting }) => ({ waiting: waiting.slice(1) }));
  if (usePending.getState().waiting.length === 0) useSession.setState({ dialog: null });
}
