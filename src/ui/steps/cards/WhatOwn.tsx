"use client";
/** Part of What: size and turn that single props have besides those of the dressing. */
import { describeParam } from "@/core/schema";
import { ownSchema } from "@/core/place";
import { type Prop } from "@/core/scene";
import { useScene } from "@/store";
import { PropPicture } from "../../basket";
import { Fold, ValueField } from "../../kit";
import { dressingOf, usePlacements, useEdit } from "../../state";
import { complaintOf, type CardProps } from "../params";

export function Own({ dressing }: CardProps) {
  const placements = usePlacements(dressing.id);
  const props = useScene((scene) => scene.props);
  const used = props.filter((prop) => placements?.props.includes(prop.id));
  const differ = dressing.what.own.filter(({ size, turn }) => size !== 1 || turn !== 0).length;
  return (
    <Fold
      label="Each prop's own"
      help="Size and turn of single props, in addition to the dressing's."
      summary={differ > 0 ? `${differ} of ${used.length}` : ""}
    >
      {used.map((prop) => (
        <div key={prop.id} className="grid grid-cols-[22px_1fr_62px_62px] items-center gap-1.5">
          <PropPicture prop={prop} size={22} />
          <span className="truncate text-[12.5px]" title={prop.name}>
            {prop.name}
          </span>
          <OwnNumber dressing={dressing} prop={prop} name="size" />
          <OwnNumber dressing={dressing} prop={prop} name="turn" />
        </div>
      ))}
      {used.length === 0 && <p className="text-xs text-ink-6">Props show here as soon as some stand.</p>}
    </Fold>
  );
}

function OwnNumber({ dressing, prop, name }: CardProps & { prop: Prop; name: "size" | "turn" }) {
  const schema = ownSchema.shape[name];
  const { label, unit } = describeParam(schema);
  const standard = schema.parse(undefined);
  const edit = useEdit<number>(`${label} of ${prop.name}`, (scene, value) => {
    const what = dressingOf(scene, dressing.id)?.what;
    if (!what) return;
    let own = what.own.find((one) => one.prop === prop.id);
    if (!own) what.own.push((own = ownSchema.parse({ prop: prop.id })));
    own[name] = value;
    what.own = what.own.filter(({ size, turn }) => size !== 1 || turn !== 0);
  });
  return (
    <ValueField
      label={`${label} of ${prop.name}`}
      unit={unit}
      value={dressing.what.own.find((one) => one.prop === prop.id)?.[name] ?? standard}
      edit={edit}
      complaint={(value) => complaintOf(schema, value)}
    />
  );
}
