/** The props and mixes of the scene, as a list to choose from. */
import { useMemo } from "react";
import { useScene } from "@/store";
import { Choose, type Choice } from "../kit";
import { useUsableProps } from "../state";
import { MixPicture, PropPicture } from "./PropPicture";

/** @param into the assembly that they are for; that which is open unless said */
export function usePropChoices(into?: string): Choice[] {
  const props = useUsableProps(into);
  const mixes = useScene((scene) => scene.mixes);
  return useMemo(
    () => [
      ...props.map((prop) => ({ id: prop.id, label: prop.name, picture: <PropPicture prop={prop} size={22} /> })),
      ...mixes.map((mix) => ({ id: mix.id, label: mix.name, picture: <MixPicture mix={mix} size={22} /> })),
    ],
    [props, mixes],
  );
}

/** The name of a prop or mix; undefined for one that is gone. */
export function usePropName(id: string | null): string | undefined {
  return useScene((scene) => [...scene.props, ...scene.mixes].find((one) => one.id === id)?.name);
}

/** Who plays a role: one of the props and mixes, or nobody, so that its slots stay blank. */
export function RoleChoice({
  role,
  prop,
  into,
  onChoose,
}: {
  role: string;
  /** The assembly that it is a role in. */
  into?: string;
  prop: string | null;
  onChoose: (prop: string | null) => void;
}) {
  const choices = usePropChoices(into);
  const name = usePropName(prop);
  const shown = name ?? "Nobody yet";
  return (
    <div className="grid grid-cols-[84px_1fr] items-center gap-2 text-[12.5px] text-ink-6">
      <span className="truncate">{role}</span>
      <Choose
        label={`${role}: ${shown}`}
        choices={[...choices, { id: "", label: "Nobody: it stays blank" }]}
        onChoose={(id) => onChoose(id === "" ? null : id)}
        className={`inline-flex h-7.5 w-fit max-w-full items-center gap-1.5 rounded-lg border border-linen-3 bg-paper px-2 ${name === undefined ? "text-ochre-dark" : "text-ink-9"}`}
      >
        <AnyPicture id={prop} size={20} />
        <span className="truncate">{shown}</span>
      </Choose>
    </div>
  );
}

/** The picture of a prop or mix. */
export function AnyPicture({ id, size }: { id: string | null; size: number }) {
  const prop = useScene((scene) => scene.props.find((one) => one.id === id));
  const mix = useScene((scene) => scene.mixes.find((one) => one.id === id));
  if (prop) return <PropPicture prop={prop} size={size} />;
  return mix ? <MixPicture mix={mix} size={size} /> : null;
}
