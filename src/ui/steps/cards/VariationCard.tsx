"use client";
/** The card of Variation: each kind of chance with its own switch, and the seed they are all dealt from. */
import { ChevronLeft, ChevronRight } from "lucide-react";
import { Button, IconButton } from "../../kit";
import { editDressing, useSession } from "../../state";
import {
  StepChoice,
  StepColour,
  StepNumber,
  StepNumbers,
  StepRange,
  StepRanges,
  StepSwitch,
  type CardProps,
} from "../params";

const GROUP = "grid gap-1.5 border-t border-linen-2 pt-2 first:border-0 first:pt-0";

export function VariationCard({ dressing }: CardProps) {
  const { seed, positionOn, turnOn, sizeOn, tintOn, wanderOn } = dressing.variation;
  const step = "variation" as const;
  const of = { dressing, step };
  const setSeed = (next: number) =>
    editDressing(dressing.id, "Seed", ({ variation }) => void (variation.seed = Math.max(0, Math.min(999_999, next))));
  return (
    <>
      <div className={GROUP}>
        <StepSwitch {...of} name="positionOn" />
        {positionOn && (
          <>
            <StepRanges {...of} names={["along", "across", "up"]} />
            <StepChoice {...of} name="positionSpread" />
            <StepNumber {...of} name="positionStep" />
          </>
        )}
      </div>
      <div className={GROUP}>
        <StepSwitch {...of} name="turnOn" />
        {turnOn && (
          <>
            <StepRanges {...of} names={["turnAlong", "turnAcross", "turnUp"]} />
            <StepChoice {...of} name="turnSpread" />
            <StepNumber {...of} name="turnStep" />
          </>
        )}
      </div>
      <div className={GROUP}>
        <StepSwitch {...of} name="sizeOn" />
        {sizeOn && (
          <>
            <StepRange {...of} name="size" />
            <StepRanges {...of} names={["width", "height", "depth"]} />
            <StepChoice {...of} name="sizeSpread" />
            <StepNumber {...of} name="sizeStep" />
          </>
        )}
      </div>
      <div className={GROUP}>
        <StepNumber {...of} name="mirror" />
      </div>
      <div className={GROUP}>
        <StepSwitch {...of} name="tintOn" />
        {tintOn && (
          <div className="flex gap-5">
            <StepColour {...of} name="tintFrom" />
            <StepColour {...of} name="tintTo" />
          </div>
        )}
      </div>
      <div className={GROUP}>
        <StepSwitch {...of} name="wanderOn" />
        {wanderOn && <StepNumbers {...of} names={["wanderAcross", "wanderUp", "wanderOver"]} />}
      </div>
      <div className={GROUP}>
        <div className="flex items-center gap-1">
          <div className="grow">
            <StepNumber {...of} name="seed" />
          </div>
          <IconButton
            label="Previous seed"
            className="size-6.5"
            disabled={seed === 0}
            onClick={() => setSeed(seed - 1)}
          >
            <ChevronLeft size={14} />
          </IconButton>
          <IconButton label="Next seed" className="size-6.5" onClick={() => setSeed(seed + 1)}>
            <ChevronRight size={14} />
          </IconButton>
        </div>
        <Button look="dashed" className="h-7! text-xs" onClick={() => useSession.setState({ dialog: "seeds" })}>
          Choose a seed by its picture…
        </Button>
      </div>
    </>
  );
}
