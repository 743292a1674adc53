"use client";
/** A recipe used: on what, and who plays its roles. */
import { useState, type ReactNode } from "react";
import { dressingSchema, dressedBy, kindOf, type Recipe, type RecipeUse } from "@/core/place";
import { isAssemblyRecipe, type AnyRecipe, type AssemblyRecipe } from "@/core/scene";
import { useScene, useSceneStore, type KeptRecipe } from "@/store";
import { boxOf } from "../assets";
import { RoleChoice } from "../basket";
import { Button, Choose } from "../kit";
import { assembleByRecipe, dressByRecipe, surfaceOf, useClosedLines, useSession, useUsableProps } from "../state";
import { sentence } from "../steps";

const close = () => useSession.setState({ dialog: null });

/** What a recipe says in words. */
export function saying(recipe: AnyRecipe): string {
  if (isAssemblyRecipe(recipe)) return `An assembly of ${listed(recipe.parts.dressings.map(({ name }) => name))}.`;
  const roles = Object.fromEntries(recipe.roles.map(({ id }) => [id, id]));
  const dressing = dressingSchema.parse({
    id: "recipe",
    name: recipe.name,
    ...dressedBy({ id: "recipe", recipe, roles }, {}),
  });
  const scene = { ...useSceneStore.getState().shown, props: recipe.roles as never[] };
  const words = sentence(dressing, scene).map(({ text }) => text).join(""); // prettier-ignore
  return words.replace(/no (line|surface|volume) yet/, "a $1");
}

/** Names as they are said: with commas, and “and” before the last; after a few how many more there are. */
function listed(names: readonly string[]): string {
  const shown = names.length > 4 ? [...names.slice(0, 3), `${names.length - 3} more`] : names;
  return shown.length > 1 ? `${shown.slice(0, -1).join(", ")} and ${shown.at(-1)}` : (shown[0] ?? "nothing");
}

/** The prop that is called as a role is, or begins so, else those of the basket in their order. */
function castAtFirst({ roles }: AnyRecipe, props: readonly { id: string; name: string }[]): RecipeUse["roles"] {
  const isCalled = (name: string, role: string) => name.toLowerCase() === role.toLowerCase();
  const begins = (name: string, role: string) => name.toLowerCase().startsWith(`${role.toLowerCase()} `);
  const alike = (role: string) =>
    (props.find(({ name }) => isCalled(name, role)) ?? props.find(({ name }) => begins(name, role)))?.id;
  return Object.fromEntries(roles.map(({ id, name }, i) => [id, alike(name) ?? props[i]?.id ?? null]));
}

export function UseIt(kept: KeptRecipe) {
  const { recipe } = kept;
  return isAssemblyRecipe(recipe) ? (
    <UseOfAssembly {...kept} recipe={recipe} />
  ) : (
    <UseOfDressing {...kept} recipe={recipe} />
  );
}

function UseOfDressing({ id, recipe, picture }: KeptRecipe & { recipe: Recipe }) {
  const scene = useScene((shown) => shown);
  const props = useUsableProps();
  const closed = useClosedLines();
  const { where } = recipe.rules;
  const { ordered, fills } = kindOf(where);
  const [roles, setRoles] = useState(() => castAtFirst(recipe, props));
  const noun = ordered ? "line" : fills ? "volume" : "surface";
  const areas = where.kind === "over" ? closed.map((line) => ({ id: line.id, name: `Within ${line.name}` })) : [];
  const things = ordered ? scene.lines : [...scene.surfaces, ...areas];
  const undressed = ordered ? scene.lines.find((line) => !scene.dressings.some((one) => one.where.lines.includes(line.id))) : undefined; // prettier-ignore
  const [on, setOn] = useState<string | null>(undressed?.id ?? things[0]?.id ?? null);
  const use = () => {
    if (on === null) return;
    close();
    const isArea = areas.some((area) => area.id === on);
    dressByRecipe({ id, recipe, roles }, ordered ? { lines: [on] } : isArea ? { areas: [on] } : fills ? { volumes: [on] } : { surfaces: [on] }); // prettier-ignore
  };
  return (
    <Using
      recipe={recipe}
      picture={picture}
      roles={roles}
      onCast={setRoles}
      word="Dress"
      onUse={on === null ? null : use}
    >
      <On
        lead={`On the ${noun}`}
        name={things.find((thing) => thing.id === on)?.name ?? `No ${noun} yet`}
        choices={things.map((thing) => ({ id: thing.id, label: thing.name }))}
        empty={`There is no ${noun} in the scene yet.`}
        onChoose={setOn}
      />
    </Using>
  );
}

const IN_BASKET = "";

/** An assembly is made anew; it may stand on something at once. */
function UseOfAssembly({ id, recipe, picture }: KeptRecipe & { recipe: AssemblyRecipe }) {
  const scene = useScene((shown) => shown);
  const props = useUsableProps();
  const [roles, setRoles] = useState(() => castAtFirst(recipe, props));
  const [on, setOn] = useState(IN_BASKET);
  const use = () => {
    close();
    const surface = surfaceOf(scene, on);
    const [wide, , deep] = surface ? boxOf(surface) : [0, 0, 0];
    const target = surface ? { surface: on, area: wide * deep } : on === IN_BASKET ? null : { line: on };
    assembleByRecipe({ id, recipe, roles }, target);
  };
  const things = [...scene.lines, ...scene.surfaces].map((thing) => ({ id: thing.id, label: thing.name }));
  const nowhere = { id: IN_BASKET, label: "Nothing yet: into the basket" };
  return (
    <Using recipe={recipe} picture={picture} roles={roles} onCast={setRoles} word="Put together" onUse={use}>
      <On
        lead="It stands on"
        name={(things.find((thing) => thing.id === on) ?? nowhere).label}
        choices={[nowhere, ...things]}
        empty=""
        onChoose={setOn}
      />
    </Using>
  );
}

interface OnProps {
  lead: string;
  name: string;
  choices: { id: string; label: string }[];
  empty: string;
  onChoose: (id: string) => void;
}

/** On what it is used. */
function On({ lead, name, ...choosing }: OnProps) {
  return (
    <div className="grid grid-cols-[84px_1fr] items-center gap-2">
      <span className="text-ink-6">{lead}</span>
      <Choose
        label={`${lead}: ${name}`}
        {...choosing}
        className="inline-flex h-7.5 w-fit max-w-full items-center rounded-lg border border-linen-3 bg-paper px-2"
      >
        <span className="truncate">{name}</span>
      </Choose>
    </div>
  );
}

interface UsingProps {
  recipe: AnyRecipe;
  picture: string | null;
  roles: RecipeUse["roles"];
  onCast: (roles: RecipeUse["roles"]) => void;
  /** What the button says, and does; null as long as it can do nothing. */
  word: string;
  onUse: (() => void) | null;
  children: ReactNode;
}

/** What a recipe is, who plays in it, and on what. */
function Using({ recipe, picture, roles, onCast, word, onUse, children }: UsingProps) {
  const high = 72;
  return (
    <section aria-label="Use it" className="grid content-start gap-2.5 text-[12.5px]">
      <h3 className="text-sm font-semibold">{recipe.name}</h3>
      {picture && (
        // oxlint-disable-next-line nextjs/no-img-element -- a data address
        <img src={picture} alt="" height={high} className="h-18 w-fit max-w-80 rounded-lg border border-linen-2" />
      )}
      <p className="text-ink-6">{saying(recipe)}</p>
      {recipe.dials.length > 0 && (
        <p className="text-xs text-ink-6">Dials: {recipe.dials.map(({ name }) => name).join(", ")}.</p>
      )}
      <div className="grid gap-1">
        {recipe.roles.map(({ id: role, name }) => (
          <RoleChoice
            key={role}
            role={name}
            prop={roles[role] ?? null}
            onChoose={(prop) => onCast({ ...roles, [role]: prop })}
          />
        ))}
        {children}
      </div>
      <div className="mt-2 flex justify-end gap-2">
        <Button onClick={close}>Cancel</Button>
        <Button look="main" disabled={onUse === null} onClick={() => onUse?.()}>
          {word}
        </Button>
      </div>
    </section>
  );
}
