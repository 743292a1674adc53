"use client";
/** The part of Where that stacks things along a line: how deep, how high, on how many levels. */
import { heightsOf, STEP_SCHEMAS } from "@/core/place";
import { useScene } from "@/store";
import { Choose } from "../../kit";
import { editDressing, millimetre } from "../../state";
import { ADD, StepChoice, StepNumber, StepRange, StepSwitch, type CardProps } from "../params";
import { PlacesField } from "./PlacesField";

export function RackFields({ dressing }: CardProps) {
  const { stacked, levels, levelsBy, levelAt } = dressing.where;
  const given = { dressing, step: "where" as const };
  return (
    <div className="grid gap-1.5 border-t border-linen-2 pt-2">
      <StepSwitch {...given} name="stacked" />
      {stacked && (
        <>
          <HowMany dressing={dressing} way="deep" />
          <StepChoice {...given} name="meetsRack" />
          <StepChoice {...given} name="backLies" />
          <HowMany dressing={dressing} way="high" />
          <StepChoice {...given} name="columnOf" />
          <StepChoice
            {...given}
            name="levelsBy"
            // What is there stays: the heights begin as those that the levels have.
            also={({ where }, before) => {
              if (before.where.levelsBy === "number") where.levelAt = heightsOf(before.where).map(millimetre);
            }}
          />
          {levelsBy === "heights" ? (
            <PlacesField
              schema={STEP_SCHEMAS.where.shape.levelAt}
              from="above the line"
              list={levelAt}
              onChange={(label, list) => editDressing(dressing.id, label, ({ where }) => void (where.levelAt = list))}
            />
          ) : (
            <StepNumber {...given} name="levels" />
          )}
          {levelsBy === "number" && levels > 1 && <StepNumber {...given} name="levelRise" />}
          {heightsOf(dressing.where).length > 1 && <StepChoice {...given} name="levelOf" />}
        </>
      )}
    </div>
  );
}

type Way = "deep" | "high";

/** A number, so many metres, or the length of a line. */
function HowMany({ dressing, way }: CardProps & { way: Way }) {
  const given = { dressing, step: "where" as const };
  const by = dressing.where[`${way}By`];
  return (
    <>
      <StepChoice {...given} name={`${way}By`} />
      {by === "number" && <StepRange {...given} name={way} />}
      {by === "metres" && <StepRange {...given} name={`${way}Into`} />}
      {by === "line" && <AsLongAs dressing={dressing} way={way} />}
    </>
  );
}

function AsLongAs({ dressing, way }: CardProps & { way: Way }) {
  const lines = useScene((scene) => scene.lines);
  const id = dressing.where[`${way}Line`];
  const name = lines.find((line) => line.id === id)?.name;
  const label = way === "deep" ? "As deep as" : "As high as";
  const shown = name ?? (id === null ? "Choose a line…" : "A line that is gone");
  return (
    <div className="grid grid-cols-[84px_1fr] items-center gap-2 text-[12.5px] text-ink-6">
      <span>{label}</span>
      <Choose
        label={`${label}: ${shown}`}
        choices={lines.map((line) => ({ id: line.id, label: line.name }))}
        empty="There is no line in the scene yet."
        onChoose={(line) => editDressing(dressing.id, label, ({ where }) => void (where[`${way}Line`] = line))}
        className={`${ADD} w-fit max-w-full`}
      >
        <span className={`truncate ${name === undefined && id !== null ? "text-ochre-dark" : ""}`}>{shown}</span>
      </Choose>
    </div>
  );
}
