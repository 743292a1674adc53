/** Surfaces that are part of assemblies, as props to be drawn: see `core/scene/seen-parts.ts`. */
import { create } from "zustand";
import type { PropBounds } from "@/core/mesh";
import { partAsProp, seenParts, type Prop, type Surface } from "@/core/scene";
import { useScene, useSceneStore } from "@/store";
import { useMade } from "../state";
import { modelOf, requestModel, useModels, type Model } from "./models";
import { modelOfSurface } from "./surface-models";

interface Drawn {
  /** The scene's props, and with them the surfaces whose models are there. */
  props: readonly Prop[];
  all: readonly Prop[];
}

const useDrawn = create<Drawn>()(() => ({ props: [], all: [] }));

/** The scene's props and whatever else is drawn as one. */
export function useDrawnProps(): readonly Prop[] {
  const props = useScene((scene) => scene.props);
  return useDrawn((drawn) => (drawn.props === props ? drawn.all : props));
}

/** The same outside of components. */
export function drawnProps(): readonly Prop[] {
  const { props } = useSceneStore.getState().shown;
  const drawn = useDrawn.getState();
  return drawn.props === props ? drawn.all : props;
}

interface Part {
  prop: Prop;
  model: Model;
}

/** Keeps the surfaces that are part of assemblies as props. @returns ends it */
export function keepParts(): () => void {
  let known = new Map<Surface, Part>();
  const look = () => {
    const { props } = useSceneStore.getState().shown;
    const now = new Map<Surface, Part>();
    for (const surface of seenParts(props)) {
      if (surface.asset !== null) void requestModel(surface.asset);
      const model = modelOfSurface(surface);
      if (!model) continue;
      const was = known.get(surface);
      now.set(surface, was?.model === model ? was : { model, prop: asProp(surface, model) });
    }
    const gone = [...known].filter(([surface, one]) => now.get(surface) !== one).map(([, one]) => one);
    const come = [...now].filter(([surface, one]) => known.get(surface) !== one).map(([, one]) => one);
    known = now;
    if (useDrawn.getState().props === props && gone.length + come.length === 0) return;
    useDrawn.setState({ props, all: now.size > 0 ? [...props, ...[...now.values()].map(({ prop }) => prop)] : props });
    keepMade(gone, come);
  };
  const ends = [
    useModels.subscribe(look),
    useMade.subscribe(look),
    useSceneStore.subscribe((now, before) => now.shown.props !== before.shown.props && look()),
  ];
  look();
  return () => ends.forEach((end) => end());
}

function asProp(surface: Surface, model: Model): Prop {
  const { min, max } = model.box.clone().translate(model.origin);
  const box: PropBounds = { min: [min.x, min.y, min.z], max: [max.x, max.y, max.z] };
  return partAsProp({ ...surface, triangles: model.triangles }, box);
}

/** What has no file is known under a name of its own. */
function keepMade(gone: readonly Part[], come: readonly Part[]): void {
  const isMade = ({ prop }: Part) => prop.asset === null;
  if (!gone.some(isMade) && !come.some(isMade)) return;
  const models = new Map(useModels.getState().models);
  for (const { prop } of gone.filter(isMade)) models.delete(modelOf(prop));
  for (const { prop, model } of come.filter(isMade)) models.set(modelOf(prop), model);
  useModels.setState({ models });
}
