"use client";
/** The scene's name, when it was last saved, and what can be done with it as a whole. */
import { ChevronDown } from "lucide-react";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";
import { duplicateScene, useScene, useSceneStore, type SaveState } from "@/store";
import { chooseTable, Choose, NameField, tableChoices, type TableChoice } from "../kit";
import { bringIn, SCENE_FILES } from "../assets";
import { downloadProject } from "../export";
import { useSession } from "../state";
import { toggleTime } from "../time";
import { chooseFineness, finenessChoices, type Fineness } from "../three";

export function SceneName() {
  const name = useScene((scene) => scene.name);
  const change = useSceneStore((store) => store.change);
  const shown = useScene((scene) => scene.time.shown);
  const router = useRouter();
  const input = useRef<HTMLInputElement>(null);
  const heading = useRef<HTMLHeadingElement>(null);
  // Whoever opens a scene is told so, and begins at its top.
  useEffect(() => heading.current?.focus({ preventScroll: true }), []);
  const act = async (action: string) => {
    if (action === "scenes") router.push("/");
    else if (action === "open") input.current?.click();
    else if (action === "export") useSession.setState({ dialog: "export" });
    else if (action.startsWith("table ")) chooseTable(action.slice(6) as TableChoice);
    else if (action.startsWith("fineness ")) chooseFineness(action.slice(9) as Fineness);
    else if (action === "time") toggleTime();
    else if (action === "keys") useSession.setState({ dialog: "keys" });
    else if (action === "duplicate") {
      await useSceneStore.getState().flush();
      router.push(`/scene/${await duplicateScene(useSceneStore.getState().id!)}`);
    }
  };
  return (
    <div className="flex min-w-0 items-center gap-2.5 pl-4 pr-2">
      <Link href="/" aria-label="All scenes" title="All scenes" className="shrink-0">
        <PegMark />
      </Link>
      <div className="min-w-0 grow">
        <h1 ref={heading} tabIndex={-1} className="sr-only">
          {name}
        </h1>
        <NameField
          label="Name of the scene"
          value={name}
          onChange={(next) => change("Rename scene", (scene) => void (scene.name = next))}
          className="w-full truncate text-[15px] font-semibold tracking-tight"
        />
        <SavedWhen />
      </div>
      <Choose
        label="Scene menu"
        choices={[
          { id: "scenes", label: "All scenes" },
          { id: "open", label: "Open file…" },
          { id: "duplicate", label: "Duplicate this scene" },
          { id: "export", label: "Export…" },
          { id: "keys", label: "Keys" },
          { id: "time", label: shown ? "Hide the time bar while nothing moves" : "Let it move" },
          ...tableChoices(),
          ...finenessChoices(),
        ]}
        onChoose={(action) => void act(action)}
        className="grid size-7 shrink-0 place-items-center rounded-lg text-ink-6 hover:bg-linen-1"
      >
        <ChevronDown size={15} />
      </Choose>
      <input
        ref={input}
        type="file"
        accept={SCENE_FILES}
        hidden
        onChange={(event) => {
          void bringIn([...(event.target.files ?? [])], "props", (id) => router.push(`/scene/${id}`));
          event.target.value = "";
        }}
      />
    </div>
  );
}

/** Two clothes-pegs, ours. */
export function PegMark() {
  return (
    <svg width="26" height="34" viewBox="0 0 26 34" aria-hidden>
      <path d="M9 2h3v30l-4-5V8z" fill="#c79a5d" />
      <path d="M17 2h-3v30l4-5V8z" fill="#a97c42" />
      <rect x="6" y="12" width="14" height="4" rx="2" fill="var(--color-ink-9)" />
    </svg>
  );
}

function SavedWhen() {
  const save = useSceneStore((store) => store.save);
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  const trouble = save.kind === "failed" || save.kind === "conflict" || save.kind === "gone";
  return (
    <p className="flex min-w-0 gap-1.5 text-xs">
      <span
        role="status"
        data-testid="saved"
        data-kind={save.kind}
        title={trouble ? savedWords(save, now) : undefined}
        className={`truncate ${trouble ? "text-madder" : "text-ink-6"}`}
      >
        {savedWords(save, now)}
      </span>
      {save.kind === "failed" && (
        <button
          type="button"
          className="shrink-0 border-b border-madder text-madder"
          title="Write the whole scene to a file, so that it is safe meanwhile"
          onClick={() => void downloadProject()}
        >
          Project file
        </button>
      )}
    </p>
  );
}

function savedWords(save: SaveState, now: number): string {
  switch (save.kind) {
    case "saved":
      return `Saved ${ago(now - save.at)}`;
    case "unsaved":
      return "Saving…";
    case "failed":
      return `Not saved: ${save.reason}`;
    case "conflict":
      return "Changed in another tab";
    case "gone":
      return "Deleted elsewhere";
  }
}

/** So long ago, in words. */
export function ago(milliseconds: number): string {
  const seconds = Math.max(0, Math.floor(milliseconds / 1000));
  if (seconds < 2) return "just now";
  if (seconds < 60) return `${seconds} s ago`;
  if (seconds < 3600) return `${Math.floor(seconds / 60)} min ago`;
  if (seconds < 86_400) return `${Math.floor(seconds / 3600)} h ago`;
  const days = Math.floor(seconds / 86_400);
  return days === 1 ? "yesterday" : `${days} days ago`;
}
