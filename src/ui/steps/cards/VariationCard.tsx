"use client";
/** The card of Variation: each kind of chance with its own switch, and the seed they are all dealt from. */
import { ChevronLeft, ChevronRight } from "lucide-react";
import { propsIn } from "@/core/place";
import { useScene } from "@/store";
import { modelOf, useModels } from "../../assets";
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
import { ClipChoice } from "../ClipChoice";
import { Tide } from "../../time";

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
      <Clips dressing={dressing} />
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

/** How props whose files have clips stand or play; nothing where none has any. */
function Clips({ dressing }: CardProps) {
  const { pose, clip, clipStarts } = dressing.variation;
  const props = useScene((scene) => scene.props);
  const mixes = useScene((scene) => scene.mixes);
  const models = useModels((state) => state.models);
  const named = new Set(propsIn(dressing.what));
  for (const { id, props: some } of mixes) if (named.has(id)) for (const { prop } of some) named.add(prop);
  const files = props.flatMap((prop) => {
    const model = named.has(prop.id) ? models.get(modelOf(prop)) : undefined;
    return model && typeof model !== "string" && model.clips.length > 0 ? [model.clips] : [];
  });
  if (files.length === 0 && pose === "off") return null;
  const of = { dressing, step: "variation" as const };
  const plays = pose === "step" || pose === "own";
  return (
    <div className={GROUP}>
      <StepChoice {...of} name="pose" columns={2} />
      {pose !== "off" && (
        <ClipChoice
          files={files}
          clip={clip}
          mark={<Tide at={{ list: "dressings", id: dressing.id, path: "variation/clip" }} label="Clip" />}
          onChoose={(chosen) => editDressing(dressing.id, "Clip", ({ variation }) => void (variation.clip = chosen))}
        />
      )}
      {pose !== "off" && <StepNumber {...of} name="clipAt" />}
      {pose === "own" && <StepChoice {...of} name="clipStarts" />}
      {pose === "own" && clipStarts === "order" && <StepNumber {...of} name="clipStep" />}
      {plays && <StepRange {...of} name="clipSpeed" />}
      {plays && <StepNumber {...of} name="stills" />}
    </div>
  );
}
