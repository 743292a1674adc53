"use client";
/** The card of Gaps: blanks by chance and in runs, stretches held open, other lines to keep off, how many are kept. */
import { Plus, X } from "lucide-react";
import { kindOf, type Dressing } from "@/core/place";
import { useScene } from "@/store";
import { Choose, Fold, IconButton, ValueField } from "../../kit";
import { dressingOf, editDressing, placementsNow, unpegAll, useEdit } from "../../state";
import { WhereNot } from "./WhereNot";
import { ADD, StepNumber, StepNumbers, StepRange, StepSwitch, type CardProps } from "../params";

export function GapsCard({ dressing }: CardProps) {
  const { runsOn, atLeast, atMost } = dressing.gaps;
  const spread = !kindOf(dressing.where).ordered;
  const step = "gaps" as const;
  const pegs = Object.keys(dressing.pegs).length;
  const kept = [atLeast > 0 ? `at least ${atLeast}` : "", atMost > 0 ? `at most ${atMost}` : ""].filter(Boolean);
  return (
    <>
      <StepNumber dressing={dressing} step={step} name="chance" />
      {!kindOf(dressing.where).ruled ? null : spread ? (
        <WhereNot dressing={dressing} />
      ) : (
        <>
          <StepSwitch dressing={dressing} step={step} name="runsOn" />
          {runsOn && (
            <>
              <StepNumber dressing={dressing} step={step} name="runEvery" />
              <StepRange dressing={dressing} step={step} name="runLength" />
            </>
          )}
          {dressing.where.stacked && <FromRack dressing={dressing} />}
          <Stretches dressing={dressing} />
          <Avoided dressing={dressing} />
        </>
      )}
      <Fold label="How many stay" summary={kept.join(", ")}>
        <StepNumbers dressing={dressing} step={step} names={["atLeast", "atMost"]} />
      </Fold>
      {pegs > 0 && (
        <div className="flex items-center justify-between border-t border-linen-2 pt-2 text-[12.5px] text-ink-6">
          <span>
            {pegs} {pegs === 1 ? "placement" : "placements"} pegged by hand
          </span>
          <button type="button" className={ADD} onClick={() => unpegAll(dressing.id)}>
            Take all pegs off
          </button>
        </div>
      )}
    </>
  );
}

/** What is missing from a rack. */
function FromRack({ dressing }: CardProps) {
  const given = { dressing, step: "gaps" as const };
  return (
    <div className="grid gap-1.5 border-t border-linen-2 pt-2">
      <StepNumbers {...given} names={["lessBack", "lessTop", "taken"]} />
      {dressing.gaps.taken > 0 && <StepNumber {...given} name="clump" />}
      <StepSwitch {...given} name="onGaps" />
    </div>
  );
}

const byName = (names: readonly { id: string; name: string }[], id: string) =>
  names.find((one) => one.id === id)?.name ?? "a line that is gone";

/** The stretches that are held open, by numbers. */
function Stretches({ dressing }: CardProps) {
  const lines = useScene((scene) => scene.lines);
  const { stretches } = dressing.gaps;
  const own = lines.filter((line) => dressing.where.lines.includes(line.id));
  const hold = (line: string) => {
    const placements = placementsNow(dressing.id);
    const length = placements?.lineLengths[placements.lines.indexOf(line)] ?? 1;
    const stretch = { line, from: Math.round(length * 40) / 100, to: Math.round(length * 60) / 100 };
    editDressing(dressing.id, "Hold a stretch open", (draft) => void draft.gaps.stretches.push(stretch));
  };
  return (
    <Fold
      label="Held open"
      help="Stretches of line that stay free. They can be dragged on the strip as well."
      summary={stretches.length === 0 ? "" : String(stretches.length)}
    >
      <ul className="grid gap-1">
        {stretches.map((stretch, i) => (
          <li key={i} className="grid grid-cols-[1fr_66px_12px_66px_26px] items-center gap-1 text-xs text-ink-6">
            <span className="truncate" title={byName(lines, stretch.line)}>
              {byName(lines, stretch.line)}
            </span>
            <StretchNumber dressing={dressing} index={i} stretch={stretch} end="from" />
            <span className="text-center">–</span>
            <StretchNumber dressing={dressing} index={i} stretch={stretch} end="to" />
            <IconButton
              label={`Close stretch ${i + 1}`}
              className="size-6.5"
              onClick={() =>
                editDressing(dressing.id, "Close a stretch", ({ gaps }) => void gaps.stretches.splice(i, 1))
              }
            >
              <X size={13} />
            </IconButton>
          </li>
        ))}
      </ul>
      {own.length === 1 ? (
        <button type="button" className={`${ADD} w-fit`} onClick={() => hold(own[0].id)}>
          <Plus size={13} /> Hold a stretch open
        </button>
      ) : (
        <Choose
          label="Hold a stretch open on"
          choices={own.map(({ id, name }) => ({ id, label: name }))}
          empty="This dressing has no line yet."
          onChoose={hold}
          className={`${ADD} w-fit`}
        >
          <Plus size={13} /> Hold a stretch open on…
        </Choose>
      )}
    </Fold>
  );
}

interface StretchNumberProps extends CardProps {
  index: number;
  stretch: Dressing["gaps"]["stretches"][number];
  end: "from" | "to";
}

function StretchNumber({ dressing, index, stretch, end }: StretchNumberProps) {
  const edit = useEdit<number>("Held stretch", (scene, value) => {
    const held = dressingOf(scene, dressing.id)?.gaps.stretches[index];
    if (held) held[end] = value;
  });
  return (
    <ValueField
      label={`Stretch ${index + 1} ${end}`}
      unit="m"
      value={stretch[end]}
      edit={edit}
      complaint={() => null}
    />
  );
}

/** Other lines that props keep off. */
function Avoided({ dressing }: CardProps) {
  const lines = useScene((scene) => scene.lines);
  const { avoid } = dressing.gaps;
  const free = lines.filter((line) => !avoid.includes(line.id) && !dressing.where.lines.includes(line.id));
  return (
    <Fold
      label="Keep off lines"
      help="Props keep a distance from other lines, such as a walkway that crosses the row."
      summary={avoid.length === 0 ? "" : String(avoid.length)}
    >
      {avoid.length > 0 && <StepNumber dressing={dressing} step="gaps" name="avoidBy" />}
      <ul className="grid gap-1">
        {avoid.map((id) => (
          <li key={id} className="flex items-center gap-2 rounded-lg bg-paper py-0.5 pl-2.5 pr-0.5 text-[12.5px]">
            <span className="grow truncate">{byName(lines, id)}</span>
            <IconButton
              label={`Keep off ${byName(lines, id)} no more`}
              className="size-6.5"
              onClick={() =>
                editDressing(dressing.id, "Keep off no more", ({ gaps }) => {
                  gaps.avoid = gaps.avoid.filter((other) => other !== id);
                })
              }
            >
              <X size={13} />
            </IconButton>
          </li>
        ))}
      </ul>
      <Choose
        label="Keep off a line"
        choices={free.map(({ id, name }) => ({ id, label: name }))}
        empty="There is no other line in the scene. Draw one across this row."
        onChoose={(id) => editDressing(dressing.id, "Keep off a line", ({ gaps }) => void gaps.avoid.push(id))}
        className={`${ADD} w-fit`}
      >
        <Plus size={13} /> Keep off a line…
      </Choose>
    </Fold>
  );
}
