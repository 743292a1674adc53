/** The props and mixes of the scene, as a list to choose from. */
import { useMemo } from "react";
import { useScene } from "@/store";
import type { Choice } from "../kit";
import { MixPicture, PropPicture } from "./PropPicture";

export function usePropChoices(): Choice[] {
  const props = useScene((scene) => scene.props);
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

/** The picture of a prop or mix. */
export function AnyPicture({ id, size }: { id: string | null; size: number }) {
  const prop = useScene((scene) => scene.props.find((one) => one.id === id));
  const mix = useScene((scene) => scene.mixes.find((one) => one.id === id));
  if (prop) return <PropPicture prop={prop} size={size} />;
  return mix ? <MixPicture mix={mix} size={size} /> : null;
}
