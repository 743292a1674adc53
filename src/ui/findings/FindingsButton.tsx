"use client";
/** How many findings there are, and the list: a click selects what a finding names and brings it into sight; a button mends it. */
import { Popover, PopoverButton, PopoverPanel } from "@headlessui/react";
import { useMemo } from "react";
import { CHECK_LABELS, spoken, type Finding } from "@/core/check";
import { allParts, frameCount, isMoving, momentOf, namesIn } from "@/core/scene";
import type { InnerFinding } from "@/engine/assemblies";
import type { WorstFinding } from "@/engine/look-through";
import { useScene, useSceneStore } from "@/store";
import { Button } from "../kit";
import {
  MEND_LABELS,
  mendFinding,
  findingsOf,
  openPath,
  useInsides,
  useResults,
  selectLine,
  selectPlacements,
  useSession,
} from "../state";
import { goToFrame, look, stopLooking, useLooking } from "./looking";

const SHAPE = "inline-flex h-8 items-center whitespace-nowrap rounded-lg border px-2.5";

/** Selects what a finding names and frames it. */
export function showFinding(finding: Pick<Finding, "dressing" | "keys" | "line">): void {
  if (finding.keys.length > 0) selectPlacements(finding.dressing, [...finding.keys]);
  else {
    useSession.setState({ dressing: finding.dressing });
    if (finding.line) selectLine(finding.line);
  }
  useSession.setState({ cameraWish: { kind: "selection" } });
}

/** What is wrong at some moment or other: looked for when it is asked for, with a door to the worst moment of each. */
function WholeTime({ onGo }: { onGo: () => void }) {
  const { share, found, failure } = useLooking();
  const scene = useSceneStore((store) => store.history.scene);
  const frames = frameCount(scene.time);
  const nameOf = (id: string) => scene.dressings.find((one) => one.id === id)?.name;
  const show = async ({ finding, frame }: WorstFinding) => {
    onGo();
    await goToFrame(frame);
    showFinding(finding);
  };
  return (
    <section aria-label="Over the whole time" className="mt-1.5 border-t border-linen-2 px-2 pt-2">
      {share !== null ? (
        <div className="flex items-center gap-2 text-xs text-ink-6">
          <div
            role="progressbar"
            aria-label="Looking through the whole time"
            aria-valuenow={Math.round(100 * share)}
            className="h-1.5 flex-1 overflow-hidden rounded-full bg-linen-3"
          >
            <div className="h-full bg-sea" style={{ width: `${100 * share}%` }} />
          </div>
          <span className="font-mono">
            {Math.round(share * frames)} of {frames}
          </span>
          <Button onClick={stopLooking}>Stop</Button>
        </div>
      ) : (
        <Button onClick={() => void look()} title="Places the scene at every frame and looks for what is wrong at any.">
          {found ? "Look through the whole time again" : "Look through the whole time"}
        </Button>
      )}
      {failure && <p className="mt-1.5 text-xs text-madder">It came to nothing: {failure}</p>}
      {found && (
        <div className="mt-2 grid gap-1 pb-1">
          <p role="status" className="text-xs text-ink-6">
            {found.worst.length === 0
              ? `Nothing is wrong at any of ${frames} frames.`
              : "Each at the moment when it is worst:"}
            {found.scene !== scene && " The scene has been changed since."}
          </p>
          <ul className="-mx-2">
            {found.worst.map((worst, i) => {
              const { finding, frame, frames: at } = worst;
              const name = nameOf(finding.dressing);
              return (
                name !== undefined && (
                  <li key={i}>
                    <button
                      type="button"
                      onClick={() => void show(worst)}
                      className="w-full rounded-lg px-2 py-1.5 text-left text-xs text-ink-6 hover:bg-linen-1"
                    >
                      <span className="mr-1.5 text-[11px] font-medium text-madder">{CHECK_LABELS[finding.check]}</span>{" "}
                      <span className="font-medium text-ink-9">{name}</span> at{" "}
                      <span className="font-mono">{momentOf(frame, scene.time).toFixed(2)} s</span>,{" "}
                      {at === frames ? "and at all times" : at === 1 ? "at that frame alone" : `at ${at} frames`}.{" "}
                      {finding.message}
                    </button>
                  </li>
                )
              );
            })}
          </ul>
        </div>
      )}
    </section>
  );
}

/** What is found in assemblies that are used here: each with the way there. */
function Inside({ found, onGo }: { found: readonly InnerFinding[]; onGo: () => void }) {
  const scene = useScene((shown) => shown);
  const nameOf = namesIn({ ...allParts(scene), props: scene.props });
  return (
    <section aria-label="In assemblies">
      {found.map(({ path, finding }, i) => (
        <div key={i}>
          {path.join() !== found[i - 1]?.path.join() && (
            <h3 className="px-2 pb-1 pt-1.5 text-xs font-semibold">
              In {path.map((id) => nameOf(id, "prop") ?? "").join(" › ")}
            </h3>
          )}
          <button
            type="button"
            onClick={() => {
              onGo();
              openPath(path);
              showFinding(finding);
            }}
            className="w-full rounded-lg px-2 py-1.5 text-left hover:bg-linen-1"
          >
            <span className="mr-1.5 text-[11px] font-medium text-madder">{CHECK_LABELS[finding.check]}</span>{" "}
            <span className="text-xs text-ink-6">
              {nameOf(finding.dressing, "dressing")}: {spoken(finding.message, nameOf)}
            </span>
          </button>
        </div>
      ))}
    </section>
  );
}

export function FindingsButton() {
  const byDressing = useResults((state) => state.byDressing);
  const poking = useResults((state) => state.poking);
  const failure = useResults((state) => state.failure);
  const dressings = useScene((scene) => scene.dressings);
  const lines = useScene((scene) => scene.lines);
  const surfaces = useScene((scene) => scene.surfaces);
  const props = useScene((scene) => scene.props);
  const nameOf = useMemo(() => namesIn({ lines, surfaces, dressings, props }), [lines, surfaces, dressings, props]);
  const groups = useMemo(
    () =>
      dressings
        .map(({ id, name }) => ({ name, findings: findingsOf({ byDressing, poking }, id) }))
        .filter(({ findings }) => findings.length > 0),
    [dressings, byDressing, poking],
  );
  const moves = useSceneStore((store) => isMoving(store.history.scene));
  const known = useResults((state) => state.scene !== null);
  const inner = useInsides(({ found }) => found);
  const count = (failure ? 1 : 0) + inner.length + groups.reduce((sum, group) => sum + group.findings.length, 0);
  const well = count === 0 && known;
  return (
    <Popover>
      <PopoverButton
        data-testid="findings"
        className={`${SHAPE} ${!known && count === 0 ? "border-linen-3 bg-linen-0 text-ink-6" : well ? "border-linen-3 bg-linen-0 text-moss hover:bg-linen-1" : "border-warn bg-ochre-soft text-ochre-dark hover:bg-warn-hover"}`}
      >
        {!known && count === 0 ? "Looking…" : well ? "All well" : `${count} ${count === 1 ? "finding" : "findings"}`}
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: "bottom end", gap: 6, padding: 8 }}
        className="z-40 max-h-[60vh] w-[340px] overflow-auto rounded-[10px] border border-linen-2 bg-linen-0 p-2 shadow-float"
      >
        {({ close }) => (
          <>
            {failure && (
              <p className="mb-2 rounded-lg bg-madder-soft px-2.5 py-2 text-xs text-madder">
                The worker stopped ({failure}) and was started again. If it goes on, undo your last change.
              </p>
            )}
            {count === 0 && (
              <p className="px-2 py-1.5 text-xs text-ink-6">
                {known
                  ? "Nothing is wrong with any dressing. Findings show here as soon as there are some."
                  : "The scene is being read and placed; what is wrong shows here then."}
              </p>
            )}
            {groups.map(({ name, findings }) => (
              <section key={name} aria-label={name}>
                <h3 className="px-2 pb-1 pt-1.5 text-xs font-semibold">{name}</h3>
                <ul>
                  {findings.map((finding, i) => (
                    <li key={i}>
                      <button
                        type="button"
                        onClick={() => {
                          showFinding(finding);
                          close();
                        }}
                        className="w-full rounded-lg px-2 py-1.5 text-left hover:bg-linen-1"
                      >
                        <span className="mr-1.5 text-[11px] font-medium text-madder">
                          {CHECK_LABELS[finding.check]}
                        </span>{" "}
                        <span className="text-xs text-ink-6">{spoken(finding.message, nameOf)}</span>
                      </button>
                      {[finding.mend, finding.orElse].map(
                        (mend) =>
                          mend && (
                            <button
                              key={mend}
                              type="button"
                              onClick={() => mendFinding(finding, mend)}
                              className="mb-1 ml-2 rounded-md border border-linen-3 bg-linen-0 px-2 py-0.5 text-xs hover:bg-linen-1"
                            >
                              {MEND_LABELS[mend]}
                            </button>
                          ),
                      )}
                    </li>
                  ))}
                </ul>
              </section>
            ))}
            {inner.length > 0 && <Inside found={inner} onGo={close} />}
            {moves && <WholeTime onGo={close} />}
          </>
        )}
      </PopoverPanel>
    </Popover>
  );
}
