"use client";
/** The card of Fit: offsets, ground, rows, bending and clipping, keeping clear. */
import { kindOf } from "@/core/place";
import { propsNamed } from "@/core/scene";
import { useScene } from "@/store";
import { Fold } from "../../kit";
import { beginClearance, beginRows } from "../../state";
import { ClearOf, OnGround } from "./OnGround";
import { StepChoice, StepNumber, StepNumbers, StepSwitch, type CardProps } from "../params";

/** Bending, where it is not along a line. */
const OVER = {
  label: "Bend over the surface",
  help: "Each prop follows the surface under it instead of standing whole on it; heights stay. What is wrapped bends as its sheet does, all else by straight ways from its foot.",
};

export function FitCard({ dressing }: CardProps) {
  const { clear } = dressing.fit;
  const over = !kindOf(dressing.where).ordered;
  const wraps = kindOf(dressing.where).onSurfaces;
  const step = "fit" as const;
  const assembled = useScene(({ props, mixes }) => {
    const named = propsNamed(dressing, mixes);
    return props.some(({ id, assembly }) => assembly !== null && named.has(id));
  });
  const apart = assembled && (wraps || dressing.fit.drop !== "off");
  return (
    <>
      <StepNumbers dressing={dressing} step={step} names={["along", "across", "up"]} />
      <OnGround dressing={dressing} />
      {apart && <StepChoice dressing={dressing} step={step} name="apart" />}
      {!over && <OfALine dressing={dressing} />}
      {wraps && <StepSwitch dressing={dressing} step={step} name="bend" words={OVER} />}
      {wraps && dressing.fit.bend && <StepNumber dressing={dressing} step={step} name="bendOff" />}
      <div className="grid gap-1.5 border-t border-linen-2 pt-2">
        <StepChoice dressing={dressing} step={step} name="clear" columns={3} also={beginClearance} />
        {clear !== "off" && (
          <>
            {!over && !dressing.where.stacked && <StepChoice dressing={dressing} step={step} name="clearBy" />}
            <StepNumber dressing={dressing} step={step} name="clearance" />
            <ClearOf dressing={dressing} />
          </>
        )}
      </div>
    </>
  );
}

/** What only props along a line can have. */
function OfALine({ dressing }: CardProps) {
  const { rows } = dressing.fit;
  const step = "fit" as const;
  return (
    <>
      <Fold label="Parallel rows" summary={rows > 1 ? `${rows} rows` : ""}>
        <StepNumber dressing={dressing} step={step} name="rows" also={beginRows} />
        {rows > 1 && (
          <>
            <StepNumber dressing={dressing} step={step} name="rowDistance" />
            <StepChoice dressing={dressing} step={step} name="rowSide" />
            <StepSwitch dressing={dressing} step={step} name="stagger" />
          </>
        )}
      </Fold>
      {!dressing.where.stacked && (
        <div className="grid gap-1.5 border-t border-linen-2 pt-2">
          <StepSwitch dressing={dressing} step={step} name="bend" />
          <StepSwitch dressing={dressing} step={step} name="clip" />
        </div>
      )}
    </>
  );
}
