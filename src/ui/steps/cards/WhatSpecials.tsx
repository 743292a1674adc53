"use client";
/** Part of What: props of their own for the first, the last, corners and every nth slot, and for spans with a tag. */
import { Plus, X } from "lucide-react";
import { kindOf, STEP_SCHEMAS } from "@/core/place";
import { useScene } from "@/store";
import { AnyPicture, usePropChoices, usePropName } from "../../basket";
import { Choose, Fold, IconButton } from "../../kit";
import { editDressing, tagsOf } from "../../state";
import { ADD, StepNumber, type CardProps } from "../params";

const SPECIALS = ["first", "last", "corner", "nthProp"] as const;
/** What has neither ends nor corners. */
const SPREAD_SPECIALS = ["nthProp"] as const;

/** Props of their own for the first, the last, corners and every nth slot. */
export function Specials({ dressing }: CardProps) {
  const { what } = dressing;
  const over = !kindOf(dressing.where).ordered;
  const specials = over ? SPREAD_SPECIALS : SPECIALS;
  const set = specials.filter((name) => what[name] !== null);
  const summary = set.map((name) => ({ first: "first", last: "last", corner: "corners", nthProp: "every nth" })[name]);
  return (
    <Fold
      label="Special ones"
      help={over ? "Every nth." : "First, last, at corners, every nth."}
      summary={summary.join(", ")}
    >
      {specials.map((name) => (
        <Special key={name} dressing={dressing} name={name} />
      ))}
      {what.nthProp !== null && <StepNumber dressing={dressing} step="what" name="nth" />}
      {!over && (what.corner !== null || dressing.spacing.anew) && (
        <StepNumber dressing={dressing} step="what" name="cornerAngle" />
      )}
    </Fold>
  );
}

function Special({ dressing, name }: CardProps & { name: (typeof SPECIALS)[number] }) {
  const { label, help } = STEP_SCHEMAS.what.shape[name].meta() as { label: string; help: string };
  return (
    <div className="grid grid-cols-[84px_1fr] items-center gap-2">
      <span className="text-[12.5px] text-ink-6" title={help}>
        {label}
      </span>
      <ChooseProp
        label={label}
        value={dressing.what[name]}
        nothing="As the others"
        onChoose={(id) => editDressing(dressing.id, label, (draft) => void (draft.what[name] = id))}
      />
    </div>
  );
}

/** A prop or mix, or nothing, to choose. */
function ChooseProp({
  label,
  value,
  nothing,
  onChoose,
}: {
  label: string;
  value: string | null;
  nothing: string;
  onChoose: (id: string | null) => void;
}) {
  const choices = usePropChoices();
  const name = usePropName(value);
  return (
    <Choose
      label={`${label}: ${name ?? nothing.toLowerCase()}`}
      choices={[{ id: "", label: nothing }, ...choices]}
      onChoose={(id) => onChoose(id || null)}
      className="flex h-7 min-w-0 items-center gap-1.5 rounded-lg border border-linen-3 bg-paper px-2 text-left text-xs"
    >
      <AnyPicture id={value} size={20} />
      <span className={`truncate ${name ? "" : "text-ink-6"}`}>{name ?? nothing}</span>
    </Choose>
  );
}

/** Props for spans with a tag. */
export function Tagged({ dressing }: CardProps) {
  const lines = useScene((scene) => scene.lines);
  const { tagged } = dressing.what;
  if (!kindOf(dressing.where).ordered) return null;
  const known = lines.filter((line) => dressing.where.lines.includes(line.id)).flatMap(tagsOf);
  const free = [...new Set(known)].filter((tag) => !tagged.some((one) => one.tag === tag));
  return (
    <Fold
      label="By tag"
      help="On spans with a tag stands a prop of its own, or nothing."
      summary={tagged.map((one) => one.tag).join(", ")}
    >
      <ul className="grid gap-1">
        {tagged.map((one, i) => (
          <li key={one.tag} className="grid grid-cols-[84px_1fr_26px] items-center gap-1.5">
            <span className="truncate text-[12.5px] text-ink-6" title={one.tag}>
              {one.tag}
            </span>
            <ChooseProp
              label={`On ${one.tag}`}
              value={one.prop}
              nothing="Blank"
              onChoose={(id) => editDressing(dressing.id, "By tag", ({ what }) => void (what.tagged[i].prop = id))}
            />
            <IconButton
              label={`${one.tag} as the others`}
              className="size-6.5"
              onClick={() => editDressing(dressing.id, "By tag", ({ what }) => void what.tagged.splice(i, 1))}
            >
              <X size={13} />
            </IconButton>
          </li>
        ))}
      </ul>
      <Choose
        label="Add a tag"
        choices={free.map((tag) => ({ id: tag, label: tag }))}
        empty="No span of these lines has another tag. Select a knot of a line and write one."
        onChoose={(tag) =>
          editDressing(dressing.id, "By tag", ({ what }) => void what.tagged.push({ tag, prop: null }))
        }
        className={`${ADD} w-fit`}
      >
        <Plus size={13} /> Add a tag
      </Choose>
    </Fold>
  );
}
