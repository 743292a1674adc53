"use client";
/** How props come onto the ground: which way, what of them is measured, how they lean, and what becomes of those without any. */
import { kindOf, STEP_SCHEMAS } from "@/core/place";
import { useScene } from "@/store";
import { Fold } from "../../kit";
import { editDressing } from "../../state";
import { StepChoice, StepNumber, StepNumbers, type CardProps } from "../params";

export function OnGround({ dressing }: CardProps) {
  const { drop, dropBy, lean, without } = dressing.fit;
  const step = "fit" as const;
  const given = { dressing, step };
  return (
    <div className="grid gap-1.5 border-t border-linen-2 pt-2">
      <StepChoice {...given} name="drop" columns={3} />
      {drop !== "off" && (
        <>
          {!kindOf(dressing.where).ruled && <StepChoice {...given} name="dropAs" />}
          <StepChoice {...given} name="dropBy" columns={2} />
          {dropBy === "footprint" && <StepChoice {...given} name="dropRest" />}
          <StepNumber {...given} name="lean" />
          {lean > 0 && <StepChoice {...given} name="leanBy" />}
          <StepNumbers {...given} names={["sink", "lift"]} />
          <Fold label="Which ground, and where there is none" summary={summaryOf(dressing)}>
            {drop === "down" && <StepChoice {...given} name="dropSeen" />}
            <Onto dressing={dressing} />
            <OntoProps dressing={dressing} />
            <StepChoice {...given} name="without" columns={2} />
            {without === "floor" && <StepNumber {...given} name="floor" />}
            <StepNumber {...given} name="play" />
          </Fold>
        </>
      )}
    </div>
  );
}

function summaryOf({ fit }: CardProps["dressing"]): string {
  const named = fit.onto.length > 0 ? `${fit.onto.length} named` : "";
  const props = fit.ontoProps.length > 0 ? "props too" : "";
  return [named, props, fit.without === "keep" ? "" : fit.without].filter((part) => part !== "").join(", ");
}

/** The surfaces to be dropped onto; with none ticked, all that are ground. */
function Onto({ dressing }: CardProps) {
  const surfaces = useScene((scene) => scene.surfaces);
  const { onto } = dressing.fit;
  if (surfaces.length === 0) {
    return (
      <p className="text-xs text-ink-6">
        There is no surface in this scene yet. Bring one in on the right, under Surfaces.
      </p>
    );
  }
  const said = onto.length === 0 ? "everything that is ground" : "these alone";
  return <Ticks dressing={dressing} name="onto" said={said} things={surfaces} />;
}

/** Other dressings whose props count as ground. */
function OntoProps({ dressing }: CardProps) {
  const others = useScene((scene) => scene.dressings).filter(({ id }) => id !== dressing.id);
  if (others.length === 0) return null;
  const said = dressing.fit.ontoProps.length === 0 ? "no dressing" : "";
  return <Ticks dressing={dressing} name="ontoProps" said={said} things={others} />;
}

/** Other dressings whose props this one's give way to. */
export function ClearOf({ dressing }: CardProps) {
  const others = useScene((scene) => scene.dressings).filter(({ id }) => id !== dressing.id);
  if (others.length === 0) return null;
  const said = dressing.fit.clearOf.length === 0 ? "no other dressing" : "";
  return <Ticks dressing={dressing} name="clearOf" said={said} things={others} />;
}

interface TicksProps extends CardProps {
  name: "onto" | "ontoProps" | "clearOf";
  /** What the ticks come to, in words. */
  said: string;
  things: readonly { id: string; name: string }[];
}

function Ticks({ dressing, name, said, things }: TicksProps) {
  const { label, help } = STEP_SCHEMAS.fit.shape[name].meta() as { label: string; help: string };
  const ticked = dressing.fit[name];
  const toggle = (id: string) =>
    editDressing(dressing.id, label, ({ fit }) => {
      fit[name] = ticked.includes(id) ? ticked.filter((one) => one !== id) : [...ticked, id];
    });
  return (
    <fieldset title={help} className="grid gap-1">
      <legend className="pb-1 text-[12.5px] text-ink-6">
        {label} {said}
      </legend>
      <div className="flex max-h-28 flex-wrap gap-1 overflow-auto">
        {things.map((thing) => (
          <button
            key={thing.id}
            type="button"
            aria-pressed={ticked.includes(thing.id)}
            onClick={() => toggle(thing.id)}
            className="rounded-md border border-linen-3 bg-linen-0 px-2 py-0.5 text-xs hover:bg-paper aria-pressed:border-sea aria-pressed:bg-sea-soft aria-pressed:text-sea"
          >
            {thing.name}
          </button>
        ))}
      </div>
    </fieldset>
  );
}
