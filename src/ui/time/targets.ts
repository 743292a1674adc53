/** What the time bar is about: one course that was chosen, or all that change of what is selected. */
import { useMemo } from "react";
import { momentsOf, type CoursedList, type Scene } from "@/core/scene";
import { useSceneStore } from "@/store";
import { courseOf, useSession, type Focus, type Timed } from "../state";

interface Chosen {
  dressing: string | null;
  focus: Focus;
  course: Timed | null;
}

const LIST_OF: Partial<Record<Focus["kind"], CoursedList>> = {
  line: "lines",
  surface: "surfaces",
  dressing: "dressings",
};

/** The thing that is selected, of those that can change over time. */
function selectedThing({ dressing, focus }: Omit<Chosen, "course">): Omit<Timed, "path"> | null {
  const list = LIST_OF[focus.kind];
  const id = focus.kind === "dressing" ? dressing : focus.id;
  return list && id !== null ? { list, id } : null;
}

/** The values whose keyframes are shown. */
export function targetsOf(scene: Scene, chosen: Chosen): Timed[] {
  if (chosen.course && courseOf(scene, chosen.course)) return [chosen.course];
  const thing = selectedThing(chosen);
  const found = thing && scene[thing.list].find(({ id }) => id === thing.id);
  return found ? Object.keys(found.courses).map((path) => ({ ...thing, path })) : [];
}

/** The targets as they are now, with the moments at which any of them has a keyframe. */
export function useTargets(): { targets: Timed[]; moments: number[] } {
  const scene = useSceneStore((store) => store.history.scene);
  const dressing = useSession((session) => session.dressing);
  const focus = useSession((session) => session.focus);
  const course = useSession((session) => session.course);
  return useMemo(() => {
    const targets = targetsOf(scene, { dressing, focus, course });
    const courses = targets.map((at) => ({ courses: { [at.path]: courseOf(scene, at)! } }));
    return { targets, moments: momentsOf(courses) };
  }, [scene, dressing, focus, course]);
}
