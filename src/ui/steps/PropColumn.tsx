"use client";
/** The left column when a prop is selected. */
import { formatValue } from "@/core/schema";
import { sizeOf } from "@/core/mesh";
import { useRef } from "react";
import { propsIn } from "@/core/place";
import { isAssembled, oddityOf, preparedBounds, stoodUp, type Prop } from "@/core/scene";
import { useScene } from "@/store";
import { lightVersionFor, MESH_FILES, broughtFacts, mendedSentences, UNITS } from "../assets";
import { AssemblySection } from "../assemblies";
import { PropPicture } from "../basket";
import { Button, FilesInput } from "../kit";
import { deleteProp, editProp, renameProp, useSession } from "../state";
import { ColumnHead } from "./ColumnHead";
import { DressALine } from "./DressALine";
import { SpreadOver } from "./SpreadOver";
import { DressingLinks } from "./DressingLinks";
import { AssemblyRecipePanel } from "./RecipePanel";

export function PropColumn({ prop }: { prop: Prop }) {
  const users = useScene((scene) => scene.dressings).filter((d) => propsIn(d.what).includes(prop.id));
  const [breadth, height, depth] = sizeOf(preparedBounds(prop));
  const largest = Math.max(breadth, height, depth);
  const odd = prop.assembly ? null : oddityOf(prop, null);
  const facts: [string, string][] = [
    ["Breadth", formatValue(breadth, "m")],
    ["Height", formatValue(height, "m")],
    ["Depth", formatValue(depth, "m")],
    ...(prop.assembly
      ? []
      : ([
          ["Triangles", prop.triangles.toLocaleString("en")],
          ["It has", broughtFacts(prop.brought)],
          ["File", prop.file || "–"],
        ] as [string, string][])),
  ];
  return (
    <div className="grid gap-3 px-4 py-3.5">
      <ColumnHead
        what={prop.assembly ? "assembly" : "prop"}
        name={prop.name}
        onRename={(name) => renameProp(prop.id, name)}
        onDelete={() => deleteProp(prop.id)}
      />
      <div className="grid place-items-center rounded-[10px] bg-linen-1 py-4">
        <PropPicture prop={prop} size={128} />
      </div>
      <dl className="grid grid-cols-[92px_1fr] gap-y-1 text-[12.5px]">
        {facts.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-ink-6">{name}</dt>
            <dd className="truncate font-mono text-xs" title={value}>
              {value}
            </dd>
          </div>
        ))}
      </dl>
      {isAssembled(prop) && <AssemblyRecipePanel prop={prop} />}
      {isAssembled(prop) && <AssemblySection prop={prop} />}
      {odd?.kind === "lies" && (
        <p className="rounded-lg bg-ochre-soft px-2.5 py-2 text-xs text-ochre-dark">
          This prop is {formatValue(largest, "m")} long and lies on its back. If it should stand:{" "}
          <button
            type="button"
            className="border-b border-ochre-dark"
            onClick={() =>
              editProp(prop.id, "Stand it up", (draft) => void Object.assign(draft.prepared, stoodUp(draft)))
            }
          >
            stand it up
          </button>
          .
        </p>
      )}
      {odd && odd.kind !== "lies" && (
        <p className="rounded-lg bg-ochre-soft px-2.5 py-2 text-xs text-ochre-dark">
          This prop is {formatValue(largest, "m")} large. If that is not what it should be, its file is likely to be in
          other units than metres. It was made in{" "}
          {UNITS.map(({ label, size }, i) => (
            <span key={label}>
              {i > 0 && ", "}
              <button
                type="button"
                className="border-b border-ochre-dark"
                onClick={() => editProp(prop.id, "Size of prop", (draft) => void (draft.prepared.size = size))}
              >
                {label}
              </button>
            </span>
          ))}
          .
        </p>
      )}
      {prop.brought.mended.length > 0 && (
        <ul className="grid gap-1 rounded-lg bg-linen-1 px-2.5 py-2 text-xs text-ink-6">
          {mendedSentences(prop.brought)
            .slice(0, 3)
            .map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
        </ul>
      )}
      <Button className="w-fit" onClick={() => useSession.setState({ dialog: "prepare" })}>
        Set up: pivot, front, size…
      </Button>
      {!prop.assembly && <LightVersion prop={prop} />}
      <div className="flex flex-wrap gap-1.5">
        <DressALine what="prop" id={prop.id} />
        <SpreadOver what="prop" id={prop.id} />
      </div>
      <DressingLinks lead="Used by" dressings={users} />
    </div>
  );
}

/** A lighter mesh for where there are very many of them, or far off. */
function LightVersion({ prop }: { prop: Prop }) {
  const input = useRef<HTMLInputElement>(null);
  const { light } = prop;
  return (
    <div className="flex items-center gap-2">
      {light ? (
        <>
          <span className="min-w-0 truncate text-xs text-ink-6" title={light.file}>
            Lightly: {light.triangles.toLocaleString("en")} triangles
          </span>
          <Button
            className="h-7! text-xs"
            onClick={() => editProp(prop.id, "Light version", (draft) => void (draft.light = null))}
          >
            Take it away
          </Button>
        </>
      ) : (
        <Button
          title="A lighter mesh that is drawn instead where there are very many, or far off. It is never exported."
          onClick={() => input.current?.click()}
        >
          Light version…
        </Button>
      )}
      <FilesInput
        input={input}
        accept={MESH_FILES}
        testId="light-version"
        onFiles={(files) => void lightVersionFor(prop.id, files)}
      />
    </div>
  );
}
