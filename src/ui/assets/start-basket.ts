/** Props to begin with: some of the regatta's. */
import { toast } from "sonner";
import { demoScene } from "@/demo";
import { freeName, newId } from "@/core/scene";
import { putAssets, useSceneStore } from "@/store";
import { selectNothing, useSession } from "../state";
import type { Draft } from "immer";
import type { Prop } from "@/core/scene";

/** Things that run along lines, stand about and hang, in the order of the basket. */
const START = ["bollard", "lamp-post", "rail-post", "rail-panel", "crate", "lantern", "pennant-madder", "pennant-sea"];

/** Puts them into the basket, as one change. */
export async function bringStartBasket(): Promise<void> {
  const { scene, assets } = await demoScene();
  const props = START.flatMap((id) => scene.props.find((prop) => prop.id === id) ?? []);
  const wanted = new Set(props.map(({ asset }) => asset));
  await putAssets(new Map([...assets].filter(([hash]) => wanted.has(hash))) as Parameters<typeof putAssets>[0]);
  useSceneStore.getState().change("Begin with the regatta's props", (draft) => {
    for (const prop of props) {
      const name = freeName(
        prop.name,
        draft.props.map((other) => other.name),
      );
      draft.props.push({ ...prop, id: newId(), name } as Draft<Prop>);
    }
  });
  selectNothing();
  useSession.setState({ drawProp: useSceneStore.getState().history.scene.props[0]?.id ?? null });
  toast.success("Some props of the regatta are in the basket. Draw a line: it is dressed at once.");
}
