"use client";
/** The left column when a mix is selected: its props and their shares. */
import { Plus, X } from "lucide-react";
import { propsIn } from "@/core/place";
import { mixSchema, type Mix } from "@/core/scene";
import { useScene } from "@/store";
import { MixPicture, PropPicture } from "../basket";
import { Choose, IconButton, ValueField } from "../kit";
import { deleteMix, editMix, selectProp, useEdit, useUsableProps } from "../state";
import { ColumnHead } from "./ColumnHead";
import { DressALine } from "./DressALine";
import { SpreadOver } from "./SpreadOver";
import { DressingLinks } from "./DressingLinks";
import { ADD, complaintOf } from "./params";

const weightSchema = mixSchema.shape.props.element.shape.weight;

export function MixColumn({ mix }: { mix: Mix }) {
  const props = useScene((scene) => scene.props);
  const usable = useUsableProps();
  const users = useScene((scene) => scene.dressings).filter((d) => propsIn(d.what).includes(mix.id));
  const free = usable.filter((prop) => !mix.props.some((one) => one.prop === prop.id));
  const total = mix.props.reduce((sum, { weight }) => sum + weight, 0);
  return (
    <div className="grid gap-3 px-4 py-3.5">
      <ColumnHead
        what="mix"
        name={mix.name}
        onRename={(name) => editMix(mix.id, "Rename mix", (draft) => void (draft.name = name))}
        onDelete={() => deleteMix(mix.id)}
      />
      <div className="grid place-items-center rounded-[10px] bg-linen-1 py-4">
        <MixPicture mix={mix} size={128} />
      </div>
      <p className="text-xs text-ink-6">
        A mix stands wherever a prop can. Each slot that takes it draws one of its props by weight.
      </p>
      <ul className="grid gap-1">
        {mix.props.map(({ prop: id, weight }, i) => {
          const prop = props.find((one) => one.id === id);
          return (
            <li key={id} className="flex items-center gap-1.5 rounded-lg bg-linen-1 py-0.5 pl-1 pr-0.5">
              {prop && <PropPicture prop={prop} size={26} />}
              <button
                type="button"
                className="min-w-0 grow truncate text-left text-[12.5px] hover:text-sea"
                onClick={() => selectProp(id)}
              >
                {prop?.name ?? "A prop that is gone"}
              </button>
              <span className="font-mono text-[11px] text-ink-5">
                {total > 0 ? Math.round((100 * weight) / total) : 0} %
              </span>
              <Weight mix={mix} index={i} name={prop?.name ?? "it"} />
              <IconButton
                label={`Take ${prop?.name ?? "it"} out of the mix`}
                className="size-6.5"
                disabled={mix.props.length < 2}
                onClick={() => editMix(mix.id, "Take prop out", (draft) => void draft.props.splice(i, 1))}
              >
                <X size={13} />
              </IconButton>
            </li>
          );
        })}
      </ul>
      <Choose
        label="Add a prop to the mix"
        choices={free.map((prop) => ({
          id: prop.id,
          label: prop.name,
          picture: <PropPicture prop={prop} size={22} />,
        }))}
        empty="All props of the basket are in this mix."
        onChoose={(prop) => editMix(mix.id, "Add prop", (draft) => void draft.props.push({ prop, weight: 1 }))}
        className={`${ADD} w-fit`}
      >
        <Plus size={13} /> Add a prop
      </Choose>
      <div className="flex flex-wrap gap-1.5">
        <DressALine what="mix" id={mix.id} />
        <SpreadOver what="mix" id={mix.id} />
      </div>
      <DressingLinks lead="Used by" dressings={users} />
    </div>
  );
}

function Weight({ mix, index, name }: { mix: Mix; index: number; name: string }) {
  const edit = useEdit<number>("Weight", (scene, weight) => {
    const held = scene.mixes.find(({ id }) => id === mix.id)?.props[index];
    if (held) held.weight = weight;
  });
  return (
    <ValueField
      label={`Weight of ${name}`}
      unit="number"
      value={mix.props[index].weight}
      edit={edit}
      complaint={(value) => complaintOf(weightSchema, value)}
      className="w-12"
    />
  );
}
