/** Where one looks from in an assembly that is opened: at all of it; and back out, from where one looked before. */
import { useEffect, useRef } from "react";
import { useSceneStore } from "@/store";
import { useResults, useSession } from "../state";

interface Place {
  position: readonly number[];
  target: readonly number[];
}

/**
 * @param now where the camera is
 * @param go takes it elsewhere
 */
export function useEntering(now: Place, go: (position: readonly number[], target: readonly number[]) => void): void {
  const opened = useSceneStore((store) => store.opened);
  const computed = useSceneStore((store) => store.computed);
  const arrived = useResults((results) => results.scene);
  /** Where one looked from, in the scene and in each assembly that is open around the last one. */
  const before = useRef<Place[]>([]);
  const waits = useRef(false);
  useEffect(() => {
    const places = before.current;
    if (opened.length > places.length) {
      while (places.length < opened.length) places.push({ position: [...now.position], target: [...now.target] });
      waits.current = true;
    } else if (opened.length < places.length) {
      const { position, target } = places[opened.length];
      places.length = opened.length;
      waits.current = false;
      go(position, target);
    }
    // Until it is known what is in it there is nothing to look at.
    if (!waits.current || arrived !== computed) return;
    waits.current = false;
    useSession.setState({ cameraWish: { kind: "all" } });
  });
}
