"use client";
/** Of Gaps, what keeps props off parts of a surface or volume: walls, slope, height, facing, the distance to things, the edge. */
import { Fragment } from "react";
import { Plus, X } from "lucide-react";
import { kindOf, fieldIdsOf, type Dressing } from "@/core/place";
import { nextNumber } from "@/core/schema";
import { useScene } from "@/store";
import { Choose, Fold, IconButton, Toggle, ValueField } from "../../kit";
import { dressingOf, editDressing, useSession, useEdit, drawnLine } from "../../state";
import { Masks } from "./Masks";
import { Painted } from "./Painted";
import { ADD, StepChoice, StepNumber, StepRange, StepSwitch, type CardProps } from "../params";

/** Whether the view shows what all of this comes to. */
function Tint() {
  const on = useSession((session) => session.tinted);
  return (
    <Toggle
      label="Show it in the view"
      help="A veil lies over the surface where nothing may stand, thinner where fewer may. Hovering says why."
      on={on}
      onChange={(tinted) => useSession.setState({ tinted })}
    />
  );
}

export function WhereNot({ dressing }: CardProps) {
  const { slopeOn, heightOn, facingOn, edge } = dressing.gaps;
  const given = { dressing, step: "gaps" as const };
  if (kindOf(dressing.where).fills) {
    return (
      <>
        <StepNumber {...given} name="walls" />
        <div className="grid gap-1.5 border-t border-linen-2 pt-2">
          <StepSwitch {...given} name="heightOn" />
          {heightOn && (
            <>
              <StepRange {...given} name="height" />
              <StepNumber {...given} name="heightSoft" />
            </>
          )}
        </div>
        <Distances dressing={dressing} />
      </>
    );
  }
  return (
    <>
      <div className="grid gap-1.5 border-t border-linen-2 pt-2">
        <StepSwitch {...given} name="slopeOn" />
        {slopeOn && (
          <>
            <StepRange {...given} name="slope" />
            <StepNumber {...given} name="slopeSoft" />
          </>
        )}
        <StepSwitch {...given} name="heightOn" />
        {heightOn && (
          <>
            <StepRange {...given} name="height" />
            <StepNumber {...given} name="heightSoft" />
          </>
        )}
        <StepSwitch {...given} name="facingOn" />
        {facingOn && (
          <>
            <StepNumber {...given} name="facing" />
            <StepNumber {...given} name="facingWithin" />
          </>
        )}
        {(["u", "v"] as const).map((which) => (
          <Fragment key={which}>
            <StepSwitch {...given} name={`${which}On`} />
            {dressing.gaps[`${which}On`] && (
              <>
                <StepChoice {...given} name={`${which}By`} />
                <StepRange {...given} name={which} />
                <StepNumber {...given} name={`${which}Soft`} />
              </>
            )}
          </Fragment>
        ))}
      </div>
      <Tint />
      <Painted dressing={dressing} />
      <Masks dressing={dressing} />
      <Distances dressing={dressing} />
      <div className="grid gap-1.5 border-t border-linen-2 pt-2">
        <StepNumber {...given} name="edge" />
        {edge > 0 && <StepNumber {...given} name="edgeSize" />}
      </div>
    </>
  );
}

/** Lines and surfaces whose distance counts. */
function Distances({ dressing }: CardProps) {
  const lines = useScene((scene) => scene.lines);
  const surfaces = useScene((scene) => scene.surfaces);
  const { distances } = dressing.gaps;
  const dressings = useScene((scene) => scene.dressings).filter(({ id }) => id !== dressing.id);
  const things = [...lines, ...dressings, ...surfaces.filter(({ id }) => !fieldIdsOf(dressing.where).includes(id))];
  const free = things.filter(({ id }) => !distances.some(({ to }) => to === id));
  return (
    <Fold
      label="By distance"
      help="To lines as seen from above, to surfaces, and to the props of other dressings: nothing stands at the one distance, all may at the other; swap the two to thicken towards a thing."
      summary={distances.length === 0 ? "" : String(distances.length)}
    >
      <ul className="grid gap-1">
        {distances.map(({ to, within }, i) => {
          const closed = lines.some((line) => line.id === to && drawnLine(line).curve.closed);
          const name = things.find(({ id }) => id === to)?.name ?? "something that is gone";
          return (
            <li key={to} className="grid grid-cols-[1fr_62px_62px_26px] items-center gap-1 text-xs text-ink-6">
              <span className="truncate" title={name}>
                {name}
              </span>
              <DistanceNumber dressing={dressing} index={i} end="none" name={name} />
              <DistanceNumber dressing={dressing} index={i} end="full" name={name} />
              <IconButton
                label={`Mind the distance to ${name} no more`}
                className="size-6.5"
                onClick={() =>
                  editDressing(dressing.id, "Mind a distance no more", ({ gaps }) => void gaps.distances.splice(i, 1))
                }
              >
                <X size={13} />
              </IconButton>
              {closed && (
                <label className="col-span-4 flex items-center gap-1.5 pb-1 text-[11.5px]">
                  <input
                    type="checkbox"
                    checked={within}
                    onChange={(event) => {
                      const on = event.target.checked;
                      editDressing(dressing.id, "Inside counts", ({ gaps }) => void (gaps.distances[i].within = on));
                    }}
                    className="accent-sea"
                  />
                  What lies inside it counts as on it
                </label>
              )}
            </li>
          );
        })}
      </ul>
      {distances.length > 0 && (
        <p className="grid grid-cols-[1fr_62px_62px_26px] gap-1 text-[11px] text-ink-5">
          <span />
          <span>none at</span>
          <span>all from</span>
        </p>
      )}
      <Choose
        label="Mind the distance to"
        choices={free.map(({ id, name }) => ({ id, label: name }))}
        empty="There is nothing else in the scene to keep off."
        onChoose={(to) =>
          editDressing(
            dressing.id,
            "Mind a distance",
            ({ gaps }) =>
              void gaps.distances.push({ id: nextNumber(gaps.distances), to, within: false, none: 0.6, full: 0.6 }),
          )
        }
        className={`${ADD} w-fit`}
      >
        <Plus size={13} /> Keep off…
      </Choose>
    </Fold>
  );
}

interface DistanceNumberProps extends CardProps {
  index: number;
  end: keyof Pick<Dressing["gaps"]["distances"][number], "none" | "full">;
  name: string;
}

function DistanceNumber({ dressing, index, end, name }: DistanceNumberProps) {
  const edit = useEdit<number>("Distance", (scene, value) => {
    const one = dressingOf(scene, dressing.id)?.gaps.distances[index];
    if (one) one[end] = value;
  });
  return (
    <ValueField
      label={`${end === "none" ? "None at" : "All from"}, to ${name}`}
      unit="m"
      value={dressing.gaps.distances[index][end]}
      edit={edit}
      complaint={(value) => (value < 0 ? "a distance is not below zero" : null)}
    />
  );
}
