"use client";
/** How many findings there are, and the list: a click selects what a finding names and brings it into sight; a button mends it. */
import { Popover, PopoverButton, PopoverPanel } from "@headlessui/react";
import { useMemo } from "react";
import { CHECK_LABELS, spoken, type Finding } from "@/core/check";
import { namesIn } from "@/core/scene";
import { useScene } from "@/store";
import { MEND_LABELS, mendFinding, findingsOf, useResults, selectLine, selectPlacements, useSession } from "../state";

const SHAPE = "inline-flex h-8 items-center whitespace-nowrap rounded-lg border px-2.5";

/** Selects what a finding names and frames it. */
export function showFinding(finding: Finding): void {
  if (finding.keys.length > 0) selectPlacements(finding.dressing, [...finding.keys]);
  else {
    useSession.setState({ dressing: finding.dressing });
    if (finding.line) selectLine(finding.line);
  }
  useSession.setState({ cameraWish: { kind: "selection" } });
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
  const known = useResults((state) => state.scene !== null);
  const count = (failure ? 1 : 0) + groups.reduce((sum, group) => sum + group.findings.length, 0);
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
          </>
        )}
      </PopoverPanel>
    </Popover>
  );
}
