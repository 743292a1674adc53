/** Props to begin with: some of the regatta's. */
import { toast } from "sonner";
import { demoScene } from "@/demo";
import { newId } from "@/core/scene";
import { putAssets } from "@/store";
import { selectNothing } from "../state";
import { intoBasket } from "./bring-in";

/** Things that stand about, hang and run along lines, in the order of the basket; a line is dressed with the last. */
const START = ["crate", "lantern", "pennant-madder", "pennant-sea", "lamp-post", "rail-post", "rail-panel", "bollard"];

/** Puts them into the basket, as one change. */
export async function bringStartBasket(): Promise<void> {
  const { scene, assets } = await demoScene();
  const props = START.flatMap((id) => scene.props.find((prop) => prop.id === id) ?? []);
  const wanted = new Set(props.map(({ asset }) => asset));
  await putAssets(new Map([...assets].filter(([hash]) => wanted.has(hash))) as Parameters<typeof putAssets>[0]);
  intoBasket(
    "Begin with the regatta's props",
    props.map((prop) => ({ ...prop, id: newId() })),
  );
  selectNothing();
  toast.success("Some props of the regatta are in the basket. Draw a line: it is dressed at once.");
}
