"use client";
/** What is kept as an assembly, and what it is called. */
import { useState } from "react";
import { keptFrom, type Scene } from "@/core/scene";
import { useSceneStore } from "@/store";
import { Button, Modal, Segmented, Toggle } from "../kit";
import { keepAsAssembly, keepPlacements, keepTrouble, useSession } from "../state";

const close = () => useSession.setState({ dialog: null });

export function KeepDialog() {
  const { dressing, keys } = useSession.getState();
  const scene = useSceneStore((store) => store.shown);
  const own = scene.dressings.find(({ id }) => id === dressing);
  const [name, setName] = useState(own?.name ?? "Assembly");
  const [what, setWhat] = useState<"dressings" | "props">(keys.size > 0 && own ? "props" : "dressings");
  const [chosen, setChosen] = useState<readonly string[]>(own ? [own.id] : []);
  const trouble = what === "dressings" ? keepTrouble(chosen) : null;
  const [seen, setSeen] = useState<readonly string[]>([]);
  const kept = what === "dressings" ? keptFrom(scene, chosen, seen) : null;
  // In an order that stays while they are chosen.
  const surfaces = kept ? surfacesFor(scene, keptFrom(scene, chosen).needed) : [];
  const keep = () => {
    close();
    if (what === "props" && own) keepPlacements(own.id, keys, name.trim());
    else keepAsAssembly(chosen, name.trim(), seen);
  };
  return (
    <Modal title="Keep as an assembly" onClose={close} width="w-[440px]">
      <form
        className="grid gap-3 text-[12.5px]"
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <label className="grid grid-cols-[84px_1fr] items-center gap-2">
          <span className="text-ink-6">Name</span>
          <input
            aria-label="Name of the assembly"
            value={name}
            maxLength={120}
            onChange={(event) => setName(event.target.value)}
            className="h-8 rounded-lg border border-linen-3 bg-paper px-2.5"
          />
        </label>
        {keys.size > 0 && own && (
          <Segmented
            label="What is kept"
            value={what}
            choices={{
              props: keys.size === 1 ? "The selected one" : `The ${keys.size} selected`,
              dressings: "Whole dressings",
            }}
            onChange={setWhat}
          />
        )}
        {what === "dressings" && (
          <fieldset>
            <legend className="sr-only">Dressings that are in it</legend>
            {/* The one at hand comes first. */}
            <Toggles
              things={[...scene.dressings].sort((a, b) => Number(b === own) - Number(a === own))}
              chosen={chosen}
              onChoose={setChosen}
              className="max-h-[240px]"
            />
          </fieldset>
        )}
        {what === "dressings" && surfaces.length > 0 && (
          <fieldset>
            <legend className="mb-2 text-xs text-ink-6">Surfaces that are part of it, seen wherever it is used</legend>
            <Toggles things={surfaces} chosen={seen} onChoose={setSeen} className="max-h-[124px]" />
          </fieldset>
        )}
        <p className="text-xs leading-relaxed text-ink-6">{saying(kept, chosen, scene)}</p>
        <div className="flex items-center justify-end gap-2">
          {trouble && <span className="mr-auto text-xs text-ochre-dark">{trouble}</span>}
          <Button onClick={close}>Cancel</Button>
          <Button look="main" type="submit" disabled={trouble !== null || name.trim() === ""}>
            Keep
          </Button>
        </div>
      </form>
    </Modal>
  );
}

interface TogglesProps {
  things: readonly { id: string; name: string }[];
  /** The ids of those that are on. */
  chosen: readonly string[];
  onChoose: (chosen: readonly string[]) => void;
  /** How tall they may become. */
  className: string;
}

function Toggles({ things, chosen, onChoose, className }: TogglesProps) {
  return (
    <div className={`grid gap-1 overflow-y-auto rounded-lg bg-paper px-3 py-2 ${className}`}>
      {things.map(({ id, name }) => (
        <Toggle
          key={id}
          label={name}
          on={chosen.includes(id)}
          onChange={(on) => onChoose(on ? [...chosen, id] : chosen.filter((one) => one !== id))}
        />
      ))}
    </div>
  );
}

/** The surfaces that may be part of it: those that it needs come first. */
const surfacesFor = ({ surfaces }: Scene, needed: ReadonlySet<string>) =>
  surfaces
    .filter(({ hidden, outline }) => !hidden && !outline)
    .sort((a, b) => Number(needed.has(b.id)) - Number(needed.has(a.id)));

/** What goes along, and what does not, in sentences. */
function saying(kept: ReturnType<typeof keptFrom> | null, chosen: readonly string[], { dressings }: Scene): string {
  if (!kept) return "They become one prop in the basket, just as they stand; one of it stays in their place.";
  const { parts, left } = kept;
  const named = (those: readonly { name: string }[]) => those.map(({ name }) => `“${name}”`);
  const count = (n: number, one: string) => (n === 0 ? [] : [`${n} ${n === 1 ? one : `${one}s`}`]);
  const along = [
    ...count(parts.lines.length, "line"),
    ...count(parts.surfaces.length, "surface"),
    ...named(parts.dressings.filter(({ id }) => !chosen.includes(id))),
  ];
  const beside = named(dressings.filter(({ id }) => left.has(id)));
  return [
    "It becomes one prop in the basket; one of it stays in its place.",
    ...(along.length > 0 ? [`With it: ${along.join(", ")}.`] : []),
    ...(beside.length > 0 ? [`It gives way to ${beside.join(", ")} no more.`] : []),
  ].join(" ");
}
