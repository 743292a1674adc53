"use client";
/** The card of Stance: which side meets the line, where forward and up come from, turns and flips. */
import { kindOf } from "@/core/place";
import { ChevronDown } from "lucide-react";
import { STEP_SCHEMAS } from "@/core/place";
import { formatValue } from "@/core/schema";
import { useScene } from "@/store";
import { Choose, Fold, ValueField } from "../../kit";
import { dressingOf, editDressing, useEdit } from "../../state";
import { FORWARDS } from "../words";
import { StepChoice, StepNumber, StepNumbers, StepSwitch, type CardProps } from "../params";

/** What means something along a line, and over a surface or inside a volume. */
const UP_ALONG = ["world", "plumb", "line", "roll", "normal", "point"];
const UP_OVER = ["world", "normal", "point"];

export function StanceCard({ dressing }: CardProps) {
  const { stance } = dressing;
  const { kind } = dressing.where;
  const over = !kindOf({ kind }).ordered;
  const step = "stance" as const;
  const sides = [stance.meetsAlong, stance.meetsAcross].filter((side) => side !== "pivot");
  const turned = [stance.turnAlong, stance.turnAcross, stance.turnUp].filter((turn) => turn !== 0);
  const aims = stance.forward === "at" || stance.forward === "away";
  return (
    <>
      <StepChoice dressing={dressing} step={step} name="meetsUp" />
      <Fold label="Where on the prop it meets" summary={sides.length > 0 ? sides.join(", ") : ""}>
        <StepChoice dressing={dressing} step={step} name="meetsAlong" />
        <StepChoice dressing={dressing} step={step} name="meetsAcross" />
      </Fold>
      <StepChoice dressing={dressing} step={step} name="forward" only={FORWARDS[kind]} columns={over ? 4 : 2} />
      {stance.forward === "heading" && <StepNumber dressing={dressing} step={step} name="heading" />}
      {stance.forward === "line" && over && <Towards dressing={dressing} />}
      <StepChoice dressing={dressing} step={step} name="up" only={over ? UP_OVER : UP_ALONG} columns={3} />
      {!over && <StepSwitch dressing={dressing} step={step} name="banks" />}
      {!over && stance.banks && <StepNumbers dressing={dressing} step={step} names={["bankMost", "bankAfter"]} />}
      {over && stance.up === "normal" && <StepNumber dressing={dressing} step={step} name="upBy" />}
      {kindOf({ kind }).onSurfaces && stance.up === "normal" && (
        <StepChoice dressing={dressing} step={step} name="normals" />
      )}
      {(aims || stance.up === "point") && <AimedAt dressing={dressing} aims={aims} />}
      <Fold
        label="Turns"
        help={
          over
            ? "About each one's own up and forward."
            : "In the line's own frame, so they mean the same whichever way it runs."
        }
        summary={turned.map((turn) => formatValue(turn, "rad")).join(", ")}
      >
        <StepNumbers dressing={dressing} step={step} names={["turnAlong", "turnAcross", "turnUp"]} />
      </Fold>
      <StepChoice dressing={dressing} step={step} name="flip" columns={4} />
    </>
  );
}

/** The line that forward points to, or the nearest of all. */
function Towards({ dressing }: CardProps) {
  const lines = useScene((scene) => scene.lines);
  const chosen = lines.find(({ id }) => id === dressing.stance.thing);
  return (
    <Chosen
      label="Towards"
      name={chosen?.name ?? "The nearest line"}
      choices={[{ id: "", label: "The nearest line" }, ...lines.map(({ id, name }) => ({ id, label: name }))]}
      onChoose={(id) => editDressing(dressing.id, "Aim", (draft) => void (draft.stance.thing = id || null))}
    />
  );
}

interface ChosenProps {
  label: string;
  help?: string;
  name: string;
  choices: { id: string; label: string }[];
  onChoose: (id: string) => void;
}

/** Something chosen from a list, behind its label. */
function Chosen({ label, help, name, choices, onChoose }: ChosenProps) {
  return (
    <div className="grid grid-cols-[84px_1fr] items-center gap-2" title={help}>
      <span className="text-[12.5px] text-ink-6">{label}</span>
      <Choose
        label={`${label}: ${name}`}
        choices={choices}
        onChoose={onChoose}
        className="flex h-7 items-center justify-between rounded-lg border border-linen-3 bg-paper px-2 text-left text-xs"
      >
        <span className="truncate">{name}</span>
        <ChevronDown size={13} />
      </Choose>
    </div>
  );
}

/** The point or thing that forward or up is taken from. */
function AimedAt({ dressing, aims }: CardProps & { aims: boolean }) {
  const lines = useScene((scene) => scene.lines);
  const surfaces = useScene((scene) => scene.surfaces);
  const { thing } = dressing.stance;
  const chosen = [...lines, ...surfaces].find(({ id }) => id === thing);
  const { help } = STEP_SCHEMAS.stance.shape.thing.meta() as { help: string };
  const byPoint = !aims || !chosen || dressing.stance.up === "point";
  return (
    <>
      {aims && (
        <Chosen
          label="Aims at"
          help={help}
          name={chosen?.name ?? "A point"}
          choices={[
            { id: "", label: "A point" },
            ...[...lines, ...surfaces].map(({ id, name }) => ({ id, label: name })),
          ]}
          onChoose={(id) => editDressing(dressing.id, "Aim", (draft) => void (draft.stance.thing = id || null))}
        />
      )}
      {byPoint && (
        <div className="grid grid-cols-[84px_1fr_1fr_1fr] items-center gap-1.5">
          <span className="text-[12.5px] text-ink-6">Point</span>
          {([0, 1, 2] as const).map((axis) => (
            <PointNumber key={axis} dressing={dressing} axis={axis} />
          ))}
        </div>
      )}
    </>
  );
}

function PointNumber({ dressing, axis }: CardProps & { axis: 0 | 1 | 2 }) {
  const edit = useEdit<number>("Point", (scene, value) => {
    const stance = dressingOf(scene, dressing.id)?.stance;
    if (stance) stance.point = stance.point.map((old, k) => (k === axis ? value : old)) as [number, number, number];
  });
  return (
    <ValueField
      label={`Point ${"xyz"[axis]}`}
      bare
      unit="m"
      value={dressing.stance.point[axis]}
      edit={edit}
      complaint={() => null}
    />
  );
}
