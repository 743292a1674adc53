import type { Assets } from "@/core/files";
import type { Scene } from "@/core/scene";

export { DEMO_ID, DEMO_NAME } from "./name";

/** The demo scene with the files of its props, made when it is first asked for: all that makes it is loaded then. */
export async function demoScene(): Promise<{ scene: Scene; assets: Assets }> {
  const { makeDemo } = await import("./scene");
  return makeDemo();
}
