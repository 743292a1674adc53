"use client";
/** The left column: the selected dressing as a sentence and its seven steps; or a line, a prop, some placements. */
import { STEP_NAMES, type Dressing, type StepName } from "@/core/place";
import { useScene, useSceneStore } from "@/store";
import { Pin } from "lucide-react";
import { memo, useEffect, useRef } from "react";
import { IconButton } from "../kit";
import { usePlacements, openStep, pinStep, toggleStep, useSession } from "../state";
import { CARDS } from "./cards";
import { LineColumn } from "./LineColumn";
import { MixColumn } from "./MixColumn";
import { PlacementPanel } from "./PlacementPanel";
import { PropColumn } from "./PropColumn";
import { RecipePanel } from "./RecipePanel";
import { SurfaceColumn } from "./SurfaceColumn";
import { sentence, summaries } from "./words";

export function StepsColumn() {
  const focus = useSession((session) => session.focus);
  const selected = useSession((session) => session.dressing);
  const scene = useSceneStore((store) => store.shown);
  const dressing = scene.dressings.find((d) => d.id === selected);
  const line = focus.kind === "line" ? scene.lines.find((l) => l.id === focus.id) : undefined;
  const prop = focus.kind === "prop" ? scene.props.find((p) => p.id === focus.id) : undefined;
  const mix = focus.kind === "mix" ? scene.mixes.find((m) => m.id === focus.id) : undefined;
  const surface = focus.kind === "surface" ? scene.surfaces.find((s) => s.id === focus.id) : undefined;
  return (
    <aside aria-label="Steps" className="h-full overflow-y-auto overflow-x-hidden border-r border-linen-2 bg-linen-0">
      {line ? (
        <LineColumn line={line} />
      ) : prop ? (
        <PropColumn prop={prop} />
      ) : mix ? (
        <MixColumn mix={mix} />
      ) : surface ? (
        <SurfaceColumn surface={surface} />
      ) : dressing ? (
        <DressingColumn dressing={dressing} />
      ) : (
        <NothingYet />
      )}
    </aside>
  );
}

function DressingColumn({ dressing }: { dressing: Dressing }) {
  const scene = useSceneStore((store) => store.shown);
  const placements = usePlacements(dressing.id);
  const open = useSession((session) => session.openSteps);
  const words = summaries(dressing, scene, placements);
  return (
    <>
      <p className="px-4 pb-3 pt-3.5 text-[14.5px] leading-[1.55] text-ink-6" data-testid="sentence">
        {sentence(dressing, scene).map((phrase, i) =>
          phrase.step ? (
            // A span and not a button: it has to flow with the sentence's lines.
            <span
              key={i}
              role="button"
              tabIndex={0}
              onClick={() => openStep(phrase.step!)}
              onKeyDown={(event) => event.key === "Enter" && openStep(phrase.step!)}
              className={`cursor-pointer border-b-[1.5px] font-medium text-ink-9 hover:bg-sea-soft ${open.has(phrase.step) ? "border-madder" : "border-sea"}`}
            >
              {phrase.text}
            </span>
          ) : (
            <span key={i}>{phrase.text}</span>
          ),
        )}
      </p>
      {dressing.recipe && <RecipePanel dressing={dressing} use={dressing.recipe} />}
      <PlacementPanel dressing={dressing} />
      {STEP_NAMES.map((step, i) => (
        <StepCard
          key={step}
          step={step}
          number={i + 1}
          summary={words[step]}
          open={open.has(step)}
          dressing={dressing}
        />
      ))}
    </>
  );
}

interface StepCardProps {
  step: StepName;
  number: number;
  summary: string;
  open: boolean;
  dressing: Dressing;
}

/** Drawn anew only when something about it is another: at each moment that plays the sentence above it may be. */
const StepCard = memo(function StepCard({ step, number, summary, open, dressing }: StepCardProps) {
  const Card = CARDS[step];
  const name = step[0].toUpperCase() + step.slice(1);
  const pinned = useSession((session) => session.pinnedSteps.has(step));
  const section = useRef<HTMLElement>(null);
  const before = useRef(open);
  useEffect(() => {
    if (open && !before.current) section.current?.scrollIntoView({ block: "nearest" });
    before.current = open;
  }, [open]);
  return (
    <section ref={section} aria-label={name} className={`relative border-t border-linen-2 ${open ? "bg-linen-1" : ""}`}>
      <button
        type="button"
        aria-expanded={open}
        onClick={() => toggleStep(step)}
        className={`grid w-full grid-cols-[22px_auto_1fr] items-baseline gap-2 py-2 pl-4 text-left hover:bg-linen-1 ${open ? "pr-10" : "pr-4"}`}
      >
        <span className="font-mono text-[11px] font-medium text-ink-5">{number}</span>
        <span className="font-semibold">{name}</span>
        <span className="text-pretty text-right text-xs text-ink-6">{summary}</span>
      </button>
      {open && (
        <IconButton
          label={pinned ? `Let ${name} close when another step is opened` : `Keep ${name} open`}
          aria-pressed={pinned}
          className={`absolute! right-2 top-1 size-7! ${pinned ? "text-madder!" : ""}`}
          onClick={() => pinStep(step)}
        >
          <Pin size={13} className={pinned ? "" : "rotate-45"} />
        </IconButton>
      )}
      {open && (
        <div className="grid gap-1.5 px-4 pb-3 pt-0.5">
          <Card dressing={dressing} />
        </div>
      )}
    </section>
  );
});

function NothingYet() {
  const props = useScene((scene) => scene.props.length);
  const lines = useScene((scene) => scene.lines.length);
  return (
    <div className="px-4 pt-4 text-[14.5px] leading-[1.55] text-ink-6">
      <p className="mb-3">Nothing is dressed here yet.</p>
      <ol className="grid list-decimal gap-1.5 pl-5">
        <li className={props > 0 ? "text-moss" : ""}>
          {props > 0
            ? "A prop is in the basket."
            : "Bring a prop: drop a mesh's file anywhere, use Add props on the right, or begin with the regatta's."}
        </li>
        <li className={lines > 0 ? "text-moss" : ""}>
          {lines > 0 ? "A line is drawn." : "Draw a line: choose Draw line above the view and click on the ground."}
        </li>
        <li>Dress it: the line is dressed with the prop at once, or choose Dress… on the cord above.</li>
      </ol>
    </div>
  );
}
