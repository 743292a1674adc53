"use client";
/** What is said of an assembly where its prop is selected: what it holds, how its uses differ, the way in. */
import { assemblySchema, type Assembly, type Prop } from "@/core/scene";
import { describeChoice, describeParam } from "@/core/schema";
import { useSceneStore } from "@/store";
import { Button, NumberField, Segmented } from "../kit";
import {
  duplicateAssembly,
  editAssembly,
  openAssembly,
  takeAllApart,
  useEdit,
  useInsides,
  usesSaid,
  useSession,
} from "../state";

const { each, most } = assemblySchema.shape;

export function AssemblySection({ prop }: { prop: Prop & { assembly: Assembly } }) {
  const { assembly } = prop;
  const count = useInsides(({ insides }) => insides.get(prop.id)?.count ?? 0);
  const opened = useSceneStore((store) => store.opened.at(-1) === prop.id);
  const used = useSceneStore((store) => store.shown.dressings.length > 0) ? usesSaid(prop.id) : null;
  const choice = describeChoice(each);
  const edit = useEdit<number>("Different ones", (scene, value) => {
    const draft = scene.props.find(({ id }) => id === prop.id)?.assembly;
    if (draft) draft.most = value;
  });
  return (
    <section aria-label="Assembly" className="grid gap-2.5">
      <p className="text-xs leading-relaxed text-ink-6">
        {`${count.toLocaleString("en")} ${count === 1 ? "thing stands" : "things stand"} in it, by ${assembly.dressings.length} ${assembly.dressings.length === 1 ? "dressing" : "dressings"}. `}
        {used ? `Used in ${used}.` : "Not used anywhere yet."}
      </p>
      <div className="grid gap-1">
        <span className="text-xs text-ink-6">Each use</span>
        <Segmented
          label={choice.label}
          help={choice.help}
          value={assembly.each}
          choices={choice.choices as Record<Assembly["each"], string>}
          onChange={(value) => editAssembly(prop.id, "Each use", (draft) => void (draft.each = value))}
        />
      </div>
      {assembly.each === "varied" && (
        <NumberField
          param={describeParam(most)}
          value={assembly.most}
          standard={0}
          edit={edit}
          complaint={(value) =>
            most.safeParse(value).success ? null : "a whole number up to 10,000; 0 for one for each use"
          }
        />
      )}
      <div className="flex flex-wrap gap-1.5">
        {!opened && (
          <Button look="main" onClick={() => openAssembly(prop.id)}>
            Open
          </Button>
        )}
        <Button onClick={() => duplicateAssembly(prop.id)}>Duplicate</Button>
        <Button
          title="What it is made of, under a name, for all scenes: with other props in the roles, and dials on top."
          onClick={() => useSession.setState({ dialog: "save-recipe" })}
        >
          Save as a recipe…
        </Button>
        {!opened && used && (
          <Button
            title="All uses in the dressings that are seen here become what is in them, just as it stands."
            onClick={() => takeAllApart(prop.id)}
          >
            Take all apart
          </Button>
        )}
      </div>
    </section>
  );
}
