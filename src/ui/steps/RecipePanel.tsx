"use client";
/** What was made by a recipe has of it: its dials on top, who plays which role, and whether there is a newer one. */
import { useEffect, type ReactNode } from "react";
import { numberAt, paramOf, shareOf, type Dial, type Dressing, type RecipeUse } from "@/core/place";
import { same } from "@/core/graph";
import { describeParam, shareParam } from "@/core/schema";
import { dialIn, isAssemblyRecipe, numberIn, type AnyRecipe, type Assembly, type Prop } from "@/core/scene";
import { useScene, useSceneStore } from "@/store";
import { RoleChoice } from "../basket";
import { Button, Fold, NumberField } from "../kit";
import {
  bringAssemblyUp,
  bringRecipeUp,
  castAssemblyRole,
  castRole,
  dressingOf,
  letGoOfAssemblyRecipe,
  letGoOfRecipe,
  readRecipes,
  recipesNow,
  turnAssemblyDial,
  turnDial,
  useEdit,
  useRecipes,
} from "../state";
import { complaintOf } from "./params";
import type { z } from "zod";

/** Of a dressing. */
export function RecipePanel({ dressing, use }: { dressing: Dressing; use: RecipeUse }) {
  return (
    <Panel
      what="dressing"
      use={use}
      onLetGo={() => letGoOfRecipe(dressing.id)}
      onCast={(role, prop) => castRole(dressing.id, role, prop)}
      onBringUp={(now) => isAssemblyRecipe(now) || bringRecipeUp(dressing.id, now)}
    >
      {use.recipe.dials.map((dial) => (
        <DressingDial key={dial.id} dressing={dressing} dial={dial} />
      ))}
    </Panel>
  );
}

/** Of an assembly. */
export function AssemblyRecipePanel({ prop }: { prop: Prop & { assembly: Assembly } }) {
  const { id, assembly } = prop;
  const isOpen = useSceneStore((store) => store.opened.at(-1) === id);
  const shown = useScene((scene) => scene);
  const use = assembly.recipe;
  if (!use) return null;
  const parts = isOpen ? shown : assembly;
  return (
    <Panel
      what="assembly"
      use={use}
      into={id}
      onLetGo={() => letGoOfAssemblyRecipe(id)}
      onCast={(role, prop) => castAssemblyRole(id, role, prop)}
      onBringUp={(now) => isAssemblyRecipe(now) && bringAssemblyUp(id, now)}
    >
      {use.recipe.dials.map((dial) => {
        const found = dialIn(use, dial).drives.flatMap(({ path }) => numberIn(parts, path) ?? []);
        return found.length > 0 && <AssemblyDial key={dial.id} id={id} dial={dial} {...found[0]} />;
      })}
    </Panel>
  );
}

interface PanelProps {
  what: "dressing" | "assembly";
  use: { id: string; recipe: AnyRecipe; roles: RecipeUse["roles"] };
  /** The assembly that it is about. */
  into?: string;
  onLetGo: () => void;
  onCast: (role: string, prop: string | null) => void;
  onBringUp: (now: AnyRecipe) => void;
  /** The dials. */
  children: ReactNode;
}

function Panel({ what, use, into, onLetGo, onCast, onBringUp, children }: PanelProps) {
  useEffect(() => void readRecipes().catch(() => undefined), []);
  useRecipes(({ own }) => own);
  const now = recipesNow().find(({ id }) => id === use.id)?.recipe;
  const isOlder = now !== undefined && !same(now, use.recipe);
  const { name, roles } = use.recipe;
  const empty = roles.filter(({ id }) => !use.roles[id]).length;
  const inset = what === "dressing" ? "border-t px-4" : "rounded-lg border px-2.5";
  return (
    <section aria-label="Recipe" className={`grid gap-1.5 border-linen-2 bg-linen-1 py-2.5 ${inset}`}>
      <div className="flex items-center gap-2 text-[12.5px]">
        <span className="truncate rounded-r-lg rounded-l-sm border border-linen-3 bg-linen-0 py-0.5 pl-2 pr-2.5 font-medium">
          {name}
        </span>
        <Button
          className="ml-auto h-6.5! text-xs"
          title={`The ${what} stays as it is, and is one like any other from then on.`}
          onClick={onLetGo}
        >
          Let go of it
        </Button>
      </div>
      {children}
      <Fold label="Roles" summary={empty > 0 ? `${empty} empty` : String(roles.length)}>
        {roles.map((role) => (
          <RoleChoice
            key={role.id}
            role={role.name}
            prop={use.roles[role.id] ?? null}
            into={into}
            onChoose={(prop) => onCast(role.id, prop)}
          />
        ))}
      </Fold>
      {isOlder && (
        <div className="flex items-center gap-2 text-xs text-ink-6">
          <span>The recipe was changed since.</span>
          <Button
            className="ml-auto h-6.5! text-xs"
            title="What was set by hand stays; all else becomes as the recipe has it now."
            onClick={() => onBringUp(now)}
          >
            Bring up to date
          </Button>
        </div>
      )}
    </section>
  );
}

function DressingDial({ dressing, dial }: { dressing: Dressing; dial: Dial }) {
  const [{ path, from }] = dial.drives;
  const edit = useEdit<number>(dial.name, (scene, value) => {
    const draft = dressingOf(scene, dressing.id);
    if (draft) turnDial(draft, dial, isSingle(dial) ? { value } : { share: value });
  });
  return <DialField dial={dial} value={numberAt(dressing, path) ?? from} schema={paramOf(path)} edit={edit} />;
}

function AssemblyDial({ id, dial, value, schema }: { id: string; dial: Dial; value: number; schema: z.ZodType }) {
  const edit = useEdit<number>(dial.name, (scene, next) =>
    turnAssemblyDial(scene, id, dial, isSingle(dial) ? { value: next } : { share: next }),
  );
  return <DialField dial={dial} value={value} schema={schema} edit={edit} />;
}

const isSingle = ({ drives }: Dial): boolean => drives.length === 1;

/** A dial of one number is that number, over the dial's range; one of several goes from its one end to its other. */
function DialField({
  dial,
  value,
  schema,
  edit,
}: {
  dial: Dial;
  /** The first number that it drives. */
  value: number;
  schema: z.ZodType;
  edit: ReturnType<typeof useEdit<number>>;
}) {
  const [{ from, to }] = dial.drives;
  const single = isSingle(dial);
  const help = "A dial of its recipe, from one end of what it drives to the other.";
  const param = single
    ? { ...describeParam(schema), label: dial.name, slider: [Math.min(from, to), Math.max(from, to)] as const }
    : describeParam(shareParam({ label: dial.name, help, default: 0, slider: [0, 1] }));
  const share = (value: number) => (value >= 0 && value <= 1 ? null : "a dial goes from 0 to 100 %");
  return (
    <NumberField
      param={param}
      value={single ? value : Math.round(1e4 * shareOf(dial, value)) / 1e4}
      edit={edit}
      complaint={(value) => (single ? complaintOf(schema, value) : share(value))}
    />
  );
}
