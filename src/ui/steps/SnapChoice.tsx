"use client";
/** A choice among the snap points that props have. */
import { propsIn, type Dressing } from "@/core/place";
import { snapPointsOf, type Prop } from "@/core/scene";
import { useScene } from "@/store";
import { Choose } from "../kit";

/** Names of snap points that any of a dressing's props has, own ones first. */
export function useSnapNames(dressing: Dressing | undefined): string[] {
  const props = useScene((scene) => scene.props);
  const mixes = useScene((scene) => scene.mixes);
  const named = new Set(dressing ? propsIn(dressing.what) : []);
  for (const mix of mixes) if (named.has(mix.id)) for (const { prop } of mix.props) named.add(prop);
  return namesOf((props as Prop[]).filter(({ id }) => named.has(id)));
}

function namesOf(props: readonly Prop[]): string[] {
  const all = props.flatMap(snapPointsOf);
  return [...new Set([...all.filter(({ own }) => own), ...all].map(({ name }) => name))];
}

interface NamedChoiceProps {
  label: string;
  shown: string;
  choices: readonly { id: string; label: string }[];
  empty: string;
  onChoose: (id: string) => void;
}

/** A choice under its label. */
export function NamedChoice({ label, shown, choices, empty, onChoose }: NamedChoiceProps) {
  return (
    <div className="grid grid-cols-[84px_1fr] items-center gap-2">
      <span className="text-[12.5px] text-ink-6">{label}</span>
      <Choose
        label={`${label}: ${shown}`}
        choices={choices}
        empty={empty}
        onChoose={onChoose}
        className="h-7 min-w-0 truncate rounded-lg border border-linen-3 bg-paper px-2 text-left text-xs hover:bg-linen-1"
      >
        {shown}
      </Choose>
    </div>
  );
}

interface SnapChoiceProps {
  label: string;
  chosen: string;
  names: readonly string[];
  onChoose: (name: string) => void;
  /** Another choice before all names, whose id is nothing. */
  first?: string;
}

export const SnapChoice = ({ label, chosen, names, onChoose, first }: SnapChoiceProps) => (
  <NamedChoice
    label={label}
    shown={chosen}
    choices={[...(first ? [{ id: "", label: first }] : []), ...names.map((name) => ({ id: name, label: name }))]}
    empty="Its props have no snap points. Set some up on the props."
    onChoose={onChoose}
  />
);
