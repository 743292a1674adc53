/** The demo scene is listed from the start; it is made when it is first opened, and again when it is asked for. */
import { DEMO_ID, demoScene } from "@/demo";
import { addScene, sceneExists } from "@/store";

let making: Promise<void> | null = null;

/** Makes the demo scene if `id` is its own and it is not there. */
export function ensureDemo(id: string = DEMO_ID): Promise<void> {
  if (id !== DEMO_ID) return Promise.resolve();
  making ??= make().finally(() => (making = null));
  return making;
}

async function make(): Promise<void> {
  if (await sceneExists(DEMO_ID)) return;
  const { scene, assets } = await demoScene();
  await addScene(scene, assets, DEMO_ID);
}
