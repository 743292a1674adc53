/** What edits in tests begin with: the small harbour, its buoys in focus. */
import type { Scene } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { startHistory } from "@/store/history";
import { useSceneStore } from "@/store/scene-store";
import { useSession } from "../session";

export const scene = (): Scene => useSceneStore.getState().history.scene;

export function startInHarbour(): void {
  useSceneStore.setState({ id: null, history: startHistory(harbourScene()) });
  useSession.setState({ dressing: "buoys", focus: { kind: "dressing" }, keys: new Set(), drawProp: "buoy" });
}
