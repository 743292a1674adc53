"use client";
/** The table: one scene, opened, with everything around it. */
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { Group, Panel, Separator } from "react-resizable-panels";
import { toast } from "sonner";
import { useSceneStore } from "@/store";
import { InsideBar, KeepDialog } from "../assemblies";
import { bringIn, keepAssembled, keepParts } from "../assets";
import { Basket } from "../basket";
import { DrawingDialog } from "../drawing";
import { Hotkeys, KeysDialog, Palette } from "../commands";
import { ExportDialog } from "../export";
import { DressDialog, Rail } from "../rail";
import { PrepareDialog } from "../prepare";
import { ensureDemo } from "../scenes";
import { LargeSheet } from "../sheet";
import { RecipesDialog, SaveRecipeDialog } from "../recipes";
import { SeedBoard } from "../seeds";
import { StepsColumn } from "../steps";
import { beginScene, startEvaluating, useSession } from "../state";
import { pause, TimeBar, useTimeShown } from "../time";
import { SceneView } from "../view";
import { KeepingDialogs } from "./KeepingDialogs";
import { Unrolled, useUnrolled } from "./Unrolled";

/** Whether what was saved is still there is looked at so often, milliseconds. */
const LOOK_EVERY = 5000;

type Opening = "opening" | "open" | "missing" | { failed: string };

export function Table({ id }: { id: string }) {
  const opening = useOpened(id);
  if (opening === "open") return <OpenTable />;
  return (
    <main className="grid h-screen place-items-center text-ink-6">
      {opening === "opening" ? (
        <p>Opening…</p>
      ) : (
        <div className="grid max-w-md gap-3 text-center">
          <p>
            {opening === "missing"
              ? "There is no such scene in this browser."
              : `The scene could not be opened. ${opening.failed}`}
          </p>
          <Link href="/" className="border-b border-sea text-ink-9">
            All scenes
          </Link>
        </div>
      )}
    </main>
  );
}

/** Opens the scene, evaluates it as long as it is open, and saves it when the page is left. */
function useOpened(id: string): Opening {
  const [opening, setOpening] = useState<Opening>("opening");
  useEffect(() => {
    let left = false;
    let stop = () => {};
    const open = async () => {
      await ensureDemo(id);
      const found = await useSceneStore.getState().open(id);
      if (left) return;
      if (found === "missing") return setOpening("missing");
      const { shown: scene } = useSceneStore.getState();
      beginScene(scene.dressings[0]?.id ?? null, scene.props.at(-1)?.id ?? null);
      const evaluation = startEvaluating();
      const ends = [keepParts(), keepAssembled()];
      evaluation.request(useSceneStore.getState().computed);
      const unsubscribe = useSceneStore.subscribe((now, before) => {
        if (now.computed !== before.computed) evaluation.request(now.computed);
      });
      stop = () => {
        pause();
        // What can be undone there was done here.
        toast.dismiss();
        unsubscribe();
        ends.forEach((end) => end());
        evaluation.stop();
      };
      setOpening("open");
    };
    open().catch((error: unknown) => setOpening({ failed: error instanceof Error ? error.message : String(error) }));
    const leave = () => useSceneStore.getState().leave();
    const look = () => {
      if (document.hidden) leave();
      else void useSceneStore.getState().verify();
    };
    const clock = setInterval(() => void (document.hidden || useSceneStore.getState().verify()), LOOK_EVERY);
    window.addEventListener("pagehide", leave);
    document.addEventListener("visibilitychange", look);
    return () => {
      left = true;
      stop();
      leave();
      clearInterval(clock);
      window.removeEventListener("pagehide", leave);
      document.removeEventListener("visibilitychange", look);
    };
  }, [id]);
  return opening;
}

function OpenTable() {
  const router = useRouter();
  const dialog = useSession((session) => session.dialog);
  const folded = useSession((session) => session.basketFolded);
  const timed = useTimeShown();
  const large = useLargeSheet();
  const size = large ? large.size : "low";
  useHeldSelection();
  useNews();
  useRoom();
  const shows = useSession((session) => session.basketShows);
  const bring = (files: File[]) => void bringIn(files, shows, (id) => router.push(`/scene/${id}`));
  return (
    <DropZone onFiles={bring}>
      <Rail />
      <div className="min-w-0">
        <InsideBar />
      </div>
      <Group orientation="vertical" className="min-h-0">
        <Panel minSize="40%">
          <div className="grid h-full min-h-0 grid-rows-[minmax(0,1fr)_auto]">
            <div
              className={`grid min-h-0 ${folded ? "grid-cols-[312px_minmax(0,1fr)_41px] max-[959px]:grid-cols-[252px_minmax(0,1fr)_41px]" : "grid-cols-[312px_minmax(0,1fr)_188px] max-[959px]:grid-cols-[252px_minmax(0,1fr)_188px]"}`}
            >
              <StepsColumn />
              <div className={`grid min-h-0 min-w-0 ${SIZES[size]}`}>
                {large && <LargeSheet {...large} />}
                <SceneView />
              </div>
              <Basket onFiles={bring} />
            </div>
            {timed && <TimeBar />}
          </div>
        </Panel>
        {!large && (
          <>
            <Separator
              aria-label="Height of the strip"
              className="relative z-20 h-0 before:absolute before:inset-x-0 before:-top-1 before:h-2 data-[separator=active]:before:bg-sea/30 data-[separator=hover]:before:bg-sea/20"
            />
            <Panel defaultSize="172px" minSize="110px" maxSize="60%">
              <Unrolled />
            </Panel>
          </>
        )}
      </Group>
      <Hotkeys />
      {dialog === "export" && <ExportDialog />}
      {dialog === "palette" && <Palette />}
      {dialog === "keys" && <KeysDialog />}
      {dialog === "dress" && <DressDialog />}
      {dialog === "prepare" && <PrepareDialog />}
      {dialog === "drawing" && <DrawingDialog />}
      {dialog === "seeds" && <SeedBoard />}
      {dialog === "recipes" && <RecipesDialog />}
      {dialog === "save-recipe" && <SaveRecipeDialog />}
      {dialog === "keep" && <KeepDialog />}
      <KeepingDialogs />
    </DropZone>
  );
}

/** How the middle is shared between a large sheet and the view, which stays where it is, also while nothing of it shows. */
const SIZES = {
  low: "grid-cols-1",
  half: "grid-cols-2",
  whole: "grid-cols-[minmax(0,1fr)_0] *:last:invisible",
} as const;

/** What the large sheet shows; null where it lies low, or there is none. */
function useLargeSheet() {
  const size = useSession((session) => session.sheetSize);
  const { dressing, placements } = useUnrolled();
  if (size === "low" || !dressing || !placements || placements.fields.length === 0) return null;
  return { size, dressing, placements };
}

/** Screens narrower than this, pixels, have no room for all columns; one that is zoomed to twice its size is such. */
const NARROW = "(max-width: 959px)";

/** Folds the basket where there is no room for it, and unfolds it where there is again. */
function useRoom(): void {
  useEffect(() => {
    const narrow = matchMedia(NARROW);
    const take = () => useSession.setState({ basketFolded: narrow.matches });
    if (narrow.matches) take();
    narrow.addEventListener("change", take);
    return () => narrow.removeEventListener("change", take);
  }, []);
}

/** Says why a change was not made, and that another tab made one. */
function useNews(): void {
  useEffect(
    () =>
      useSceneStore.subscribe(({ refused, renewed }, before) => {
        if (renewed > before.renewed)
          toast("Another tab changed this scene: what it saved is shown now.", { id: "renewed" });
        if (refused && refused !== before.refused) toast.error(`That cannot be: ${refused.reason}.`, { id: "refused" });
      }),
    [],
  );
}

/** What is selected but no longer there, after an undo say, is let go; a scene's only dressing is at hand. */
function useHeldSelection(): void {
  const dressings = useSceneStore((store) => store.shown.dressings);
  const lines = useSceneStore((store) => store.shown.lines);
  const props = useSceneStore((store) => store.shown.props);
  const mixes = useSceneStore((store) => store.shown.mixes);
  const surfaces = useSceneStore((store) => store.shown.surfaces);
  useEffect(() => {
    const { dressing, focus, drawProp, knots } = useSession.getState();
    if (!dressings.some((d) => d.id === dressing)) {
      const next = dressings.at(-1)?.id ?? null;
      if (next !== dressing) useSession.setState({ dressing: next, keys: new Set() });
    }
    const line = focus.kind === "line" ? lines.find((l) => l.id === focus.id) : undefined;
    const gone =
      (focus.kind === "line" && !line) ||
      (focus.kind === "prop" && !props.some((p) => p.id === focus.id)) ||
      (focus.kind === "mix" && !mixes.some((m) => m.id === focus.id)) ||
      (focus.kind === "surface" && !surfaces.some((s) => s.id === focus.id));
    if (gone) useSession.setState({ focus: { kind: "dressing" }, knots: [] });
    if (line && knots.some((knot) => knot >= line.knots.length)) useSession.setState({ knots: [] });
    if (drawProp !== null && ![...props, ...mixes].some((p) => p.id === drawProp))
      useSession.setState({ drawProp: props.at(-1)?.id ?? null });
  }, [dressings, lines, props, mixes, surfaces]);
}

/** Takes files dropped anywhere. */
function DropZone({ onFiles, children }: { onFiles: (files: File[]) => void; children: React.ReactNode }) {
  const [over, setOver] = useState(false);
  const shows = useSession((session) => session.basketShows);
  const hasFiles = (event: React.DragEvent) => event.dataTransfer.types.includes("Files");
  return (
    <main
      className="relative grid h-screen min-h-[360px] min-w-[480px] grid-rows-[64px_auto_minmax(0,1fr)] overflow-hidden"
      onDragOver={(event) => {
        if (!hasFiles(event)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => {
        if (event.currentTarget === event.target || event.relatedTarget === null) setOver(false);
      }}
      onDrop={(event) => {
        if (!hasFiles(event)) return;
        event.preventDefault();
        setOver(false);
        onFiles([...event.dataTransfer.files]);
      }}
    >
      {children}
      {over && (
        <div className="pointer-events-none absolute inset-3 z-50 grid place-items-center rounded-[10px] border-2 border-dashed border-sea bg-sea-soft/85 text-lg font-medium text-sea">
          Drop meshes to add {shows}, a project file to open it
        </div>
      )}
    </main>
  );
}
