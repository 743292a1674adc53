"use client";
/** What a dressing has of the recipe that it was made by: its dials on top, who plays which role, and whether there is a newer one. */
import { useEffect } from "react";
import { dialAt, numberAt, paramOf, type Dial, type Dressing, type RecipeUse } from "@/core/place";
import { same } from "@/core/graph";
import { describeParam, shareParam } from "@/core/schema";
import { RoleChoice } from "../basket";
import { Button, Fold, NumberField } from "../kit";
import {
  bringRecipeUp,
  castRole,
  dressingOf,
  letGoOfRecipe,
  readRecipes,
  recipesNow,
  turnDial,
  useEdit,
  useRecipes,
} from "../state";
import { complaintOf } from "./params";

interface RecipeProps {
  dressing: Dressing;
  use: RecipeUse;
}

export function RecipePanel({ dressing, use }: RecipeProps) {
  useEffect(() => void readRecipes().catch(() => undefined), []);
  useRecipes(({ own }) => own);
  const now = recipesNow().find(({ id }) => id === use.id)?.recipe;
  const isOlder = now !== undefined && !same(now, use.recipe);
  const { name, dials, roles } = use.recipe;
  const empty = roles.filter(({ id }) => !use.roles[id]).length;
  return (
    <section aria-label="Recipe" className="grid gap-1.5 border-t border-linen-2 bg-linen-1 px-4 py-2.5">
      <div className="flex items-center gap-2 text-[12.5px]">
        <span className="truncate rounded-r-lg rounded-l-sm border border-linen-3 bg-linen-0 py-0.5 pl-2 pr-2.5 font-medium">
          {name}
        </span>
        <Button
          className="ml-auto h-6.5! text-xs"
          title="The dressing stays as it is, and is one like any other from then on."
          onClick={() => letGoOfRecipe(dressing.id)}
        >
          Let go of it
        </Button>
      </div>
      {dials.map((dial) => (
        <DialField key={dial.id} dressing={dressing} dial={dial} />
      ))}
      <Fold label="Roles" summary={empty > 0 ? `${empty} empty` : String(roles.length)}>
        {roles.map((role) => (
          <RoleChoice
            key={role.id}
            role={role.name}
            prop={use.roles[role.id] ?? null}
            onChoose={(prop) => castRole(dressing.id, role.id, prop)}
          />
        ))}
      </Fold>
      {isOlder && (
        <div className="flex items-center gap-2 text-xs text-ink-6">
          <span>The recipe was changed since.</span>
          <Button
            className="ml-auto h-6.5! text-xs"
            title="What was set by hand stays; all else becomes as the recipe has it now."
            onClick={() => bringRecipeUp(dressing.id, now)}
          >
            Bring up to date
          </Button>
        </div>
      )}
    </section>
  );
}

/** A dial of one number is that number, over the dial's range; one of several goes from its one end to its other. */
function DialField({ dressing, dial }: { dressing: Dressing; dial: Dial }) {
  const [{ path, from, to }, ...more] = dial.drives;
  const single = more.length === 0;
  const schema = paramOf(path);
  const help = "A dial of its recipe, from one end of what it drives to the other.";
  const param = single
    ? { ...describeParam(schema), label: dial.name, slider: [Math.min(from, to), Math.max(from, to)] as const }
    : describeParam(shareParam({ label: dial.name, help, default: 0, slider: [0, 1] }));
  const edit = useEdit<number>(dial.name, (scene, value) => {
    const draft = dressingOf(scene, dressing.id);
    if (draft) turnDial(draft, dial, single ? { value } : { share: value });
  });
  const share = (value: number) => (value >= 0 && value <= 1 ? null : "a dial goes from 0 to 100 %");
  return (
    <NumberField
      param={param}
      value={single ? (numberAt(dressing, path) ?? from) : Math.round(1e4 * dialAt(dressing, dial)) / 1e4}
      edit={edit}
      complaint={(value) => (single ? complaintOf(schema, value) : share(value))}
    />
  );
}
