"use client";
/** What a family of lines goes between, how it runs there, and what it comes to. */
import type { z } from "zod";
import { betweenSchema, MOST_MEMBERS, type Between } from "@/core/line";
import { describeChoice, formatValue } from "@/core/schema";
import { useScene } from "@/store";
import { Button } from "../kit";
import { drawnLine, editLine, loosenFamily, selectLine, selectSurface, useFamilies, useLaid } from "../state";
import { startPickingPairs } from "../view";
import { PathChoice, PathNumber, PathSwitch } from "./at-path";
import { GuideList } from "./cards/GuideList";
import { NamedChoice, SnapChoice, useSnapNames } from "./SnapChoice";

interface OfFamily {
  family: Between;
}

const shape = betweenSchema.shape as Readonly<Record<keyof Between, z.ZodType>>;
const at = (family: Between, name: keyof Between) =>
  ({ list: "lines", thing: family, path: [name], schema: shape[name] }) as const;

export function FamilySection({ family }: OfFamily) {
  const { form } = family;
  return (
    <>
      <Members family={family} />
      <PathChoice {...at(family, "pairs")} columns={2} />
      {family.pairs === "snaps" ? (
        <SnapPairs family={family} />
      ) : family.pairs === "picked" ? (
        <Picked family={family} />
      ) : (
        <LinePairs family={family} />
      )}
      <PathChoice {...at(family, "form")} columns={2} />
      {form === "hanging" && <PathChoice {...at(family, "hangsBy")} />}
      {form === "hanging" && <PathNumber {...at(family, family.hangsBy === "sag" ? "sag" : "longer")} />}
      {form === "arched" && <PathNumber {...at(family, "rise")} />}
      {form === "surface" && <On family={family} />}
      <PathNumber {...at(family, "clearFrom")} />
      <PathNumber {...at(family, "clearTo")} />
    </>
  );
}

/** How many there are and how long together, and why there are not more. */
function Members({ family }: OfFamily) {
  const members = useFamilies((state) => state.families.get(family.id));
  useLaid((laid) => laid.tracks);
  if (!members) return <p className="text-xs text-ink-6">Finding its pairs…</p>;
  const { lines, tooNear, beyond, inCircle } = members;
  const whole = lines.reduce((sum, line) => sum + drawnLine(line).curve.length, 0);
  const n = (count: number, one: string) => `${count.toLocaleString("en")} ${one}${count === 1 ? "" : "s"}`;
  return (
    <div className="grid gap-1" role="status">
      <p className="font-mono text-xs text-ink-6">
        {n(lines.length, "line")} · {formatValue(whole, "m")}
      </p>
      {inCircle && (
        <p className="text-xs text-madder">What it goes between hangs on it in turn, so there are no lines.</p>
      )}
      {tooNear > 0 && (
        <p className="text-xs text-ochre-dark">
          {n(tooNear, "pair")} {tooNear === 1 ? "lies" : "lie"} too near to each other for what is kept clear.
        </p>
      )}
      {beyond > 0 && (
        <p className="text-xs text-ochre-dark">
          {n(beyond, "pair")} or more beyond the {MOST_MEMBERS.toLocaleString("en")} that are made.
        </p>
      )}
      {lines.length === 0 && !inCircle && tooNear === 0 && (
        <p className="text-xs text-ink-6">{WHY_NONE[family.pairs]}</p>
      )}
    </div>
  );
}

const WHY_NONE: Readonly<Record<Between["pairs"], string>> = {
  along: "Add a line that is divided, or say into how many parts.",
  across: "Add two lines that are divided, or say into how many parts.",
  crossing: "Add two lines that are divided, or say into how many parts.",
  snaps: "Choose a dressing, and a snap point that its props have.",
  picked: "Pick places in the view, two by two.",
};

/** The lists of ids that a family has, changed one id at a time. */
function idsOf(family: Between, name: "lines" | "on", what: string) {
  const write = (label: string, change: (ids: string[]) => string[]) =>
    editLine(family.id, label, (draft) => {
      if (draft.kind === "between") draft[name] = change(draft[name]);
    });
  return {
    chosen: family[name],
    onAdd: (id: string) => write(`Add ${what}`, (ids) => [...ids, id]),
    onRemove: (id: string) => write(`Take ${what} out`, (ids) => ids.filter((one) => one !== id)),
  };
}

function LinePairs({ family }: OfFamily) {
  const lines = useScene((scene) => scene.lines);
  const along = family.pairs === "along";
  return (
    <>
      <GuideList
        noun="line"
        from="family"
        things={lines.filter(({ id }) => id !== family.id)}
        empty="There is no other line to go between. Draw one."
        onOpen={selectLine}
        {...idsOf(family, "lines", "line")}
      />
      <PathNumber {...at(family, "parts")} />
      {along ? <PathNumber {...at(family, "skip")} /> : <PathNumber {...at(family, "shift")} />}
      {!along && family.lines.length > 2 && <PathSwitch {...at(family, "around")} />}
    </>
  );
}

function SnapPairs({ family }: OfFamily) {
  const dressings = useScene((scene) => scene.dressings);
  const dressing = dressings.find(({ id }) => id === family.dressing);
  const names = useSnapNames(dressing);
  const set = (
    label: string,
    change: (draft: { dressing: string | null; snap: string; toSnap: string | null }) => void,
  ) =>
    editLine(family.id, label, (draft) => {
      if (draft.kind === "between") change(draft);
    });
  const partner = describeChoice(shape.partner);
  return (
    <>
      <NamedChoice
        label="Props of"
        shown={dressing?.name ?? "no dressing"}
        choices={dressings.map(({ id, name }) => ({ id, label: name }))}
        empty="There is no dressing yet."
        onChoose={(id) => set("Dressing to go between", (draft) => void (draft.dressing = id))}
      />
      <SnapChoice
        label="From"
        chosen={family.snap}
        names={names}
        onChoose={(name) => set("Snap point", (draft) => void (draft.snap = name))}
      />
      <SnapChoice
        label="To"
        chosen={family.toSnap ?? "the same"}
        first="The same"
        names={names}
        onChoose={(name) => set("Snap point", (draft) => void (draft.toSnap = name || null))}
      />
      <PathChoice {...at(family, "partner")} columns={Object.keys(partner.choices).length / 2} />
      {family.partner !== "next" && <PathNumber {...at(family, "within")} />}
    </>
  );
}

function Picked({ family }: OfFamily) {
  return (
    <Button className="h-7! w-fit text-xs" onClick={() => startPickingPairs(family.id)}>
      Pick places…
    </Button>
  );
}

function On({ family }: OfFamily) {
  const surfaces = useScene((scene) => scene.surfaces);
  return (
    <>
      {family.on.length === 0 && <p className="text-xs text-ink-6">On whichever ground is nearest.</p>}
      <GuideList
        noun="surface"
        from="family"
        things={surfaces}
        empty="There is no other surface."
        onOpen={selectSurface}
        {...idsOf(family, "on", "surface")}
      />
    </>
  );
}

/** What makes its members lines of their own. */
export function LoosenFamily({ family }: OfFamily) {
  const some = useFamilies((state) => (state.families.get(family.id)?.lines.length ?? 0) > 0);
  return some ? <Button onClick={() => loosenFamily(family.id)}>Make lines of them</Button> : null;
}
