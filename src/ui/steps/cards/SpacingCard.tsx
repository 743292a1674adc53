"use client";
/** The card of Spacing: one of its ways with what it needs; the ends; what is left over. Over surfaces and inside volumes, a pattern and how many. */
import type { ReactNode } from "react";
import { keepAmount, keepRule, kindOf, STEP_SCHEMAS, type Dressing } from "@/core/place";
import { formatValue } from "@/core/schema";
import { Fold } from "../../kit";
import { dressingOf, editDressing, placementsNow, useEdit, sightNow } from "../../state";
import { StepChoice, StepNumber, StepNumbers, StepRange, StepSwitch, type CardProps } from "../params";
import { CurveField } from "../CurveField";
import type { Point } from "../curve-points";
import { SnapChoice, useSnapNames } from "../SnapChoice";
import { PlacesField } from "./PlacesField";

/** What can be done with what is left over, for the ways of spacing that leave something. */
const REMAINDERS: Partial<Record<Dressing["spacing"]["by"], readonly string[]>> = {
  distance: ["end", "centred", "shared", "stretched"],
  end: ["end", "centred", "shared", "stretched"],
  density: ["end", "centred", "shared"],
};

const CARDS: Readonly<Record<Dressing["where"]["kind"], (props: CardProps) => ReactNode>> = {
  along: (props) => <Along {...props} />,
  over: (props) => <Spread {...props} />,
  inside: (props) => <Spread {...props} />,
  pinned: () => <p className="text-xs text-ink-6">Each is where it was pinned.</p>,
  patch: LaidOut,
  wrapped: LaidOut,
  loose: () => <p className="text-xs text-ink-6">Each was put where it is by hand.</p>,
};

function LaidOut(props: CardProps) {
  if (props.dressing.where.patch.layout.kind === "area") return <Spread {...props} />;
  return (
    <>
      <p className="text-xs text-ink-6">The layout under Where says how far they are apart.</p>
      <StepChoice dressing={props.dressing} step="spacing" name="runs" columns={3} />
    </>
  );
}

export const SpacingCard = ({ dressing }: CardProps) => CARDS[dressing.where.kind]({ dressing });

const IN_SPACE = { square: "Grid", hexagonal: "Packed" };
/** Those that need no texture coordinates. */
const FREE_PATTERNS = ["even", "random", "square", "hexagonal"];

function Spread({ dressing }: CardProps) {
  const { pattern, amount, clusters } = dressing.spacing;
  const { fills: inside, laysOut } = kindOf(dressing.where);
  const given = { dressing, step: "spacing" as const };
  return (
    <>
      <StepChoice
        {...given}
        name="pattern"
        bare
        columns={2}
        only={inside || laysOut ? FREE_PATTERNS : undefined}
        words={inside ? IN_SPACE : undefined}
      />
      <StepChoice
        {...given}
        name="amount"
        also={(draft, { spacing }) => {
          const there = placementsNow(dressing.id);
          const free = sightNow(dressing.id)?.free ?? 0;
          if (there)
            Object.assign(draft.spacing, keepAmount(spacing, draft.spacing.amount, { ...there, free }, inside));
        }}
      />
      {amount === "distance" && <StepNumber {...given} name="distance" />}
      {amount === "count" && <StepNumber {...given} name="count" />}
      {amount === "density" && <StepNumber {...given} name={inside ? "perVolume" : "perArea"} />}
      {!inside && (pattern === "square" || pattern === "hexagonal") && <StepNumber {...given} name="heading" />}
      {!inside && <StepChoice {...given} name="runs" columns={3} />}
      <div className="grid gap-1.5 border-t border-linen-2 pt-2">
        <StepSwitch {...given} name="clusters" />
        {clusters && (
          <>
            <StepRange {...given} name="clusterCount" />
            <StepNumber {...given} name="clusterRadius" />
          </>
        )}
      </div>
    </>
  );
}

/** How they go along their line. */
function Travel({ dressing }: CardProps) {
  const { speed, onceIn, travel, by, atKnots } = dressing.spacing;
  const summary = [
    travel !== 0 && formatValue(travel, "m"),
    speed !== 0 && formatValue(speed, "m/s"),
    atKnots !== 0 && "slower at knots",
    onceIn !== 0 && `once in ${formatValue(onceIn, "s").replace(".00", "")}`,
  ];
  return (
    <Fold label="Travel" summary={summary.filter(Boolean).join(", ")}>
      <StepNumbers
        dressing={dressing}
        step="spacing"
        names={["travel", "speed", "onceIn", ...(onceIn !== 0 ? (["ease"] as const) : [])]}
      />
      {by !== "end" && by !== "each" && <StepNumber dressing={dressing} step="spacing" name="atKnots" />}
      <StepChoice dressing={dressing} step="spacing" name="travelEnds" />
    </Fold>
  );
}

function Along({ dressing }: CardProps) {
  const { by, measure } = dressing.spacing;
  const step = "spacing" as const;
  const remainders = by === "distance" && measure === "straight" ? undefined : REMAINDERS[by];
  const { anew, together, inside } = dressing.spacing;
  const ends = [inside && "inside", anew && "anew at corners", together && "as one"].filter(Boolean).join(", ");
  return (
    <>
      <StepChoice
        dressing={dressing}
        step={step}
        name="by"
        bare
        columns={4}
        also={(draft, { spacing }) => {
          const there = placementsNow(dressing.id);
          if (there) Object.assign(draft.spacing, keepRule(spacing, draft.spacing.by, there));
        }}
      />
      {by === "distance" && (
        <>
          <StepNumber dressing={dressing} step={step} name="distance" />
          <StepChoice dressing={dressing} step={step} name="measure" />
        </>
      )}
      {by === "count" && <StepNumber dressing={dressing} step={step} name="count" />}
      {by === "end" && <StepNumber dressing={dressing} step={step} name="gap" />}
      {by === "each" && <OneEach dressing={dressing} />}
      {by === "divide" && <StepNumbers dressing={dressing} step={step} names={["parts", "every", "begin"]} />}
      {by === "list" && (
        <PlacesField
          schema={STEP_SCHEMAS.spacing.shape.list}
          from="from the start"
          list={dressing.spacing.list}
          onChange={(label, list) => editDressing(dressing.id, label, ({ spacing }) => void (spacing.list = list))}
        />
      )}
      {by === "density" && (
        <>
          <StepNumber dressing={dressing} step={step} name="distance" />
          <DensityCurve dressing={dressing} />
        </>
      )}
      {remainders && <StepChoice dressing={dressing} step={step} name="remainder" only={remainders} />}
      <StepNumbers dressing={dressing} step={step} names={["fromStart", "fromEnd", "slide"]} />
      {dressing.where.stacked && <StepNumbers dressing={dressing} step={step} names={["roomBehind", "roomAbove"]} />}
      <Travel dressing={dressing} />
      <Fold label="Ends and corners" summary={ends}>
        {by !== "end" && by !== "each" && <StepSwitch dressing={dressing} step={step} name="inside" />}
        {by !== "knots" && by !== "list" && <StepSwitch dressing={dressing} step={step} name="anew" />}
        <StepSwitch dressing={dressing} step={step} name="together" />
      </Fold>
    </>
  );
}

/** How one prop comes to span its line. */
function OneEach({ dressing }: CardProps) {
  const names = useSnapNames(dressing);
  const { each, eachFrom, eachTo } = dressing.spacing;
  return (
    <>
      <StepChoice dressing={dressing} step="spacing" name="each" columns={2} />
      {each === "snaps" && (
        <>
          <SnapChoice
            label="Start"
            chosen={eachFrom}
            names={names}
            onChoose={(name) =>
              editDressing(dressing.id, "End of props", (draft) => void (draft.spacing.eachFrom = name))
            }
          />
          <SnapChoice
            label="End"
            chosen={eachTo}
            names={names}
            onChoose={(name) =>
              editDressing(dressing.id, "End of props", (draft) => void (draft.spacing.eachTo = name))
            }
          />
        </>
      )}
    </>
  );
}

function DensityCurve({ dressing }: CardProps) {
  const schema = STEP_SCHEMAS.spacing.shape.density;
  const edit = useEdit<readonly Point[]>((schema.meta() as { label: string }).label, (scene, next) => {
    const spacing = dressingOf(scene, dressing.id)?.spacing;
    if (spacing) spacing.density = next.map(([share, value]) => [share, value]);
  });
  return <CurveField noun="density" schema={schema} points={dressing.spacing.density} edit={edit} />;
}
