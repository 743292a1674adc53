"use client";
/** The rail: the scene's name, the cord with its dressings, undo and redo, findings, export. */
import { Redo2, Undo2 } from "lucide-react";
import { useSceneStore } from "@/store";
import { FindingsButton } from "../findings";
import { Button, IconButton } from "../kit";
import { useSession } from "../state";
import { Cord } from "./Cord";
import { SceneName } from "./SceneName";

export function Rail() {
  const { undo, redo } = useSceneStore.getState();
  const past = useSceneStore((store) => store.history.past.at(-1)?.label);
  const future = useSceneStore((store) => store.history.future.at(-1)?.label);
  const dragging = useSceneStore((store) => store.history.drag !== null);
  return (
    <header className="grid h-16 grid-cols-[312px_1fr_auto] border-b max-[959px]:grid-cols-[200px_minmax(60px,1fr)_auto] border-linen-2 bg-linen-0">
      <SceneName />
      <Cord />
      <div className="flex items-center gap-1.5 pl-3 pr-4">
        <IconButton
          label={past ? `Undo: ${past}` : "Nothing to undo"}
          disabled={!past && !dragging}
          onClick={undo}
          className="border border-linen-3"
        >
          <Undo2 size={15} />
        </IconButton>
        <IconButton
          label={future ? `Redo: ${future}` : "Nothing to redo"}
          disabled={!future}
          onClick={redo}
          className="border border-linen-3"
        >
          <Redo2 size={15} />
        </IconButton>
        <FindingsButton />
        <Button look="main" onClick={() => useSession.setState({ dialog: "export" })}>
          Export
        </Button>
      </div>
    </header>
  );
}
