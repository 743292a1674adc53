"use client";
/** The cards of the seven steps: for each exactly the controls that it has. */
import { ChevronLeft, ChevronRight, Plus, X } from "lucide-react";
import type { ComponentType } from "react";
import type { StepName } from "@/core/place";
import { useScene } from "@/store";
import { Choose, IconButton } from "../kit";
import { startDrawing } from "../view/draw-state";
import { editDressing, peggedKeys, unpeg } from "../state/edits";
import { selectLine } from "../state/session";
import { PlacesField } from "./PlacesField";
import { ADD, StepChoice, StepNumber, StepRange, StepSwitch, type CardProps } from "./params";
import { WhatCard } from "./WhatCard";

function WhereCard({ dressing }: CardProps) {
  const lines = useScene((scene) => scene.lines);
  const { lines: chosen } = dressing.where;
  const free = lines.filter((line) => !chosen.includes(line.id));
  return (
    <>
      {chosen.length === 0 && <p className="text-xs text-ink-6">Choose a line for the props to follow.</p>}
      <ul className="grid gap-1">
        {chosen.map((id) => {
          const line = lines.find((l) => l.id === id);
          return (
            line && (
              <li key={id} className="flex items-center gap-2 rounded-lg bg-white py-0.5 pl-2.5 pr-0.5">
                <button
                  type="button"
                  className="grow truncate text-left text-[12.5px] hover:text-sea"
                  onClick={() => selectLine(id)}
                  title="Edit this line"
                >
                  {line.name}
                </button>
                <IconButton
                  label={`Take ${line.name} out of the dressing`}
                  className="size-6.5"
                  onClick={() =>
                    editDressing(dressing.id, "Take line out", (draft) => {
                      draft.where.lines = draft.where.lines.filter((other) => other !== id);
                    })
                  }
                >
                  <X size={13} />
                </IconButton>
              </li>
            )
          );
        })}
      </ul>
      <div className="flex gap-2">
        <Choose
          label="Add a line"
          choices={free.map((line) => ({ id: line.id, label: line.name }))}
          empty="All lines of the scene are in this dressing. Draw another one."
          onChoose={(id) => editDressing(dressing.id, "Add line", (draft) => void draft.where.lines.push(id))}
          className={ADD}
        >
          <Plus size={13} /> Add a line
        </Choose>
        <button type="button" className={ADD} onClick={startDrawing}>
          Draw line
        </button>
      </div>
    </>
  );
}

function SpacingCard({ dressing }: CardProps) {
  const { by, measure } = dressing.spacing;
  return (
    <>
      <StepChoice dressing={dressing} step="spacing" name="by" bare />
      {by === "distance" && (
        <>
          <StepNumber dressing={dressing} step="spacing" name="distance" />
          <StepChoice dressing={dressing} step="spacing" name="measure" />
        </>
      )}
      {by === "count" && <StepNumber dressing={dressing} step="spacing" name="count" />}
      {by === "divide" &&
        (["parts", "every", "begin"] as const).map((name) => (
          <StepNumber key={name} dressing={dressing} step="spacing" name={name} />
        ))}
      {by === "list" && <PlacesField dressing={dressing} />}
      <StepNumber dressing={dressing} step="spacing" name="fromStart" />
      <StepNumber dressing={dressing} step="spacing" name="fromEnd" />
      <StepNumber dressing={dressing} step="spacing" name="slide" />
      {by === "distance" && measure === "along" && <StepChoice dressing={dressing} step="spacing" name="remainder" />}
    </>
  );
}

function StanceCard({ dressing }: CardProps) {
  return (
    <>
      <StepChoice dressing={dressing} step="stance" name="meets" />
      <StepChoice dressing={dressing} step="stance" name="up" />
      <StepNumber dressing={dressing} step="stance" name="turnAlong" />
      <StepNumber dressing={dressing} step="stance" name="turnAcross" />
      <StepNumber dressing={dressing} step="stance" name="turnUp" />
    </>
  );
}

function FitCard({ dressing }: CardProps) {
  return (
    <>
      <StepNumber dressing={dressing} step="fit" name="along" />
      <StepNumber dressing={dressing} step="fit" name="across" />
      <StepNumber dressing={dressing} step="fit" name="up" />
    </>
  );
}

function VariationCard({ dressing }: CardProps) {
  const { seed, positionOn, turnOn, sizeOn } = dressing.variation;
  const setSeed = (next: number) =>
    editDressing(dressing.id, "Seed", ({ variation }) => void (variation.seed = Math.max(0, Math.min(999_999, next))));
  return (
    <>
      <StepSwitch dressing={dressing} step="variation" name="positionOn" />
      {positionOn &&
        (["along", "across", "up"] as const).map((name) => (
          <StepRange key={name} dressing={dressing} step="variation" name={name} />
        ))}
      <StepSwitch dressing={dressing} step="variation" name="turnOn" />
      {turnOn &&
        (["turnAlong", "turnAcross", "turnUp"] as const).map((name) => (
          <StepRange key={name} dressing={dressing} step="variation" name={name} />
        ))}
      <StepSwitch dressing={dressing} step="variation" name="sizeOn" />
      {sizeOn && <StepRange dressing={dressing} step="variation" name="size" />}
      <div className="flex items-center gap-1 border-t border-linen-2 pt-2.5">
        <div className="grow">
          <StepNumber dressing={dressing} step="variation" name="seed" />
        </div>
        <IconButton label="Previous seed" className="size-6.5" disabled={seed === 0} onClick={() => setSeed(seed - 1)}>
          <ChevronLeft size={14} />
        </IconButton>
        <IconButton label="Next seed" className="size-6.5" onClick={() => setSeed(seed + 1)}>
          <ChevronRight size={14} />
        </IconButton>
      </div>
    </>
  );
}

function GapsCard({ dressing }: CardProps) {
  const lines = useScene((scene) => scene.lines);
  const pegs = dressing.pegs.length;
  return (
    <>
      <StepNumber dressing={dressing} step="gaps" name="chance" />
      {pegs > 0 && (
        <div className="flex items-center justify-between text-[12.5px] text-ink-6">
          <span>
            {pegs} {pegs === 1 ? "placement" : "placements"} pegged by hand
          </span>
          <button type="button" className={ADD} onClick={() => unpeg(dressing.id, peggedKeys(dressing, lines))}>
            Take all pegs off
          </button>
        </div>
      )}
    </>
  );
}

export const CARDS: Readonly<Record<StepName, ComponentType<CardProps>>> = {
  where: WhereCard,
  what: WhatCard,
  spacing: SpacingCard,
  stance: StanceCard,
  fit: FitCard,
  variation: VariationCard,
  gaps: GapsCard,
};
