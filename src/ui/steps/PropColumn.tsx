"use client";
/** The left column when a prop is selected. */
import { ArrowLeft, Trash2 } from "lucide-react";
import { propsIn, sizeOf } from "@/core/place";
import { formatValue, type Prop } from "@/core/scene";
import { useScene } from "@/store";
import { PropPicture } from "../basket/PropPicture";
import { Choose, IconButton, NameField } from "../kit";
import { deleteProp, dress, renameProp } from "../state/edits";
import { selectNothing } from "../state/session";
import { DressingLinks } from "./DressingLinks";

/** A prop larger or smaller than this, in metres, is likely to be in other units. */
const [TINY, HUGE] = [0.005, 60];

export function PropColumn({ prop }: { prop: Prop }) {
  const lines = useScene((scene) => scene.lines);
  const users = useScene((scene) => scene.dressings).filter((d) => propsIn(d.what).includes(prop.id));
  const [breadth, height, depth] = sizeOf(prop.bounds);
  const largest = Math.max(breadth, height, depth);
  const facts: [string, string][] = [
    ["Breadth", formatValue(breadth, "m")],
    ["Height", formatValue(height, "m")],
    ["Depth", formatValue(depth, "m")],
    ["Triangles", prop.triangles.toLocaleString("en")],
    ["File", prop.file || "–"],
  ];
  return (
    <div className="grid gap-3 px-4 py-3.5">
      <div className="flex items-center gap-1">
        <IconButton label="Back to the dressing" className="-ml-2" onClick={selectNothing}>
          <ArrowLeft size={15} />
        </IconButton>
        <NameField
          label="Name of the prop"
          value={prop.name}
          onChange={(name) => renameProp(prop.id, name)}
          className="grow text-[15px] font-semibold"
        />
        <IconButton label="Delete prop" onClick={() => deleteProp(prop.id)}>
          <Trash2 size={14} />
        </IconButton>
      </div>
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
      {(largest > HUGE || largest < TINY) && (
        <p className="rounded-lg bg-ochre-soft px-2.5 py-2 text-xs text-ochre-dark">
          This prop is {formatValue(largest, "m")} large. If that is not what it should be, its file is likely to be in
          other units than metres.
        </p>
      )}
      <Choose
        label="Dress a line with this prop"
        choices={lines.map((line) => ({ id: line.id, label: line.name }))}
        empty="There is no line yet. Draw one: it is dressed with this prop at once."
        onChoose={(line) => dress(line, prop.id)}
        className="h-8 w-fit rounded-lg border border-ink-9 bg-ink-9 px-2.5 font-medium text-white hover:bg-ink-6"
      >
        Dress a line…
      </Choose>
      <DressingLinks lead="Used by" dressings={users} />
    </div>
  );
}
