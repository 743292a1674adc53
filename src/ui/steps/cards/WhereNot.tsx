"use client";
/** Of Gaps, what keeps props off parts of a surface or volume: walls, slope, height, facing, the distance to things, the edge. */
import { isFamily } from "@/core/line";
import { Fragment } from "react";
import { kindOf, fieldIdsOf } from "@/core/place";
import { useScene } from "@/store";
import { Toggle } from "../../kit";
import { useSight, useSession } from "../../state";
import { Distances } from "./Distances";
import { limitsOfGaps } from "./limited";
import { Masks } from "./Masks";
import { PaintedGaps } from "./Painted";
import { StepChoice, StepNumber, StepRange, StepSwitch, type CardProps } from "../params";

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
        <FromThings dressing={dressing} />
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
      <PaintedGaps dressing={dressing} />
      <ByMasks dressing={dressing} />
      <FromThings dressing={dressing} />
      <div className="grid gap-1.5 border-t border-linen-2 pt-2">
        <StepNumber {...given} name="edge" />
        {edge > 0 && <StepNumber {...given} name="edgeSize" />}
      </div>
    </>
  );
}

/** Lines, surfaces and other dressings whose distance counts. */
function FromThings({ dressing }: CardProps) {
  const lines = useScene((scene) => scene.lines);
  const surfaces = useScene((scene) => scene.surfaces);
  const dressings = useScene((scene) => scene.dressings).filter(({ id }) => id !== dressing.id);
  return (
    <Distances
      of={limitsOfGaps(dressing)}
      things={[
        ...lines.filter((line) => !isFamily(line)),
        ...dressings,
        ...surfaces.filter(({ id }) => !fieldIdsOf(dressing.where).includes(id)),
      ]}
      help="To lines as seen from above, to surfaces, and to the props of other dressings: nothing stands at the one distance, all may at the other; swap the two to thicken towards a thing."
      add={{ label: "Mind the distance to", words: "Keep off…", none: 0.6, full: 0.6 }}
    />
  );
}

/** Pictures over what it is spread over, and the colours of its mesh. */
function ByMasks({ dressing }: CardProps) {
  const density = useSight(dressing.id)?.density;
  return (
    <Masks
      of={limitsOfGaps(dressing)}
      over={density ?? null}
      help="Pictures, or the colours of the mesh: nothing stands where they are dark, all may where they are bright."
      testId="mask-file"
    />
  );
}
