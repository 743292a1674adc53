/** Pegs of version 5, once it is known where their slots were: they are written by the keys that they have now. */
import { useSceneStore } from "@/store";
import type { Scene } from "@/core/scene";
import type { DressingResult } from "@/engine/engine";
import type { Dressing } from "@/core/place";
import type { Draft } from "immer";

/** It is nothing that the artist did, so it is no step to be undone; after the first edit it waits for the next opening. */
export function settlePegs(results: readonly DressingResult[], scene: Scene): void {
  const found = new Map(
    results.flatMap(({ id, placements }) => (placements?.brought ? [[id, placements.brought] as const] : [])),
  );
  if (found.size === 0 || useSceneStore.getState().computed !== scene) return;
  useSceneStore.getState().amend((draft) => {
    for (const dressing of draft.dressings) {
      const brought = found.get(dressing.id);
      if (!brought || brought.left.length === dressing.oldPegs.length) continue;
      dressing.pegs = { ...brought.pegs } as Draft<Dressing>["pegs"];
      dressing.oldPegs = brought.left.map(({ peg }) => peg) as Draft<Dressing>["oldPegs"];
    }
  });
}
