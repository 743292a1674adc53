/** What edits in tests begin with: the small harbour, its buoys in focus. */
import type { Scene } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { startHistory } from "@/store/history";
import { useSceneStore } from "@/store/scene-store";
import { useSession } from "../session";

export const scene = (): Scene => useSceneStore.getState().history.scene;

/** Lays a scene on the table, at its beginning; nothing of it is kept. */
export const laidOut = (scene: Scene): void =>
  useSceneStore.setState({
    id: null,
    history: startHistory(scene),
    moment: 0,
    towards: null,
    shown: scene,
    computed: scene,
  });

export function startInHarbour(): void {
  laidOut(harbourScene());
  useSession.setState({ dressing: "buoys", focus: { kind: "dressing" }, keys: new Set(), drawProp: "buoy" });
}
