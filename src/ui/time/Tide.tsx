"use client";
/** *The tide mark* beside what can change over time: a click sets a keyframe at the moment, or opens what there is to do. */
import { keyframeAt } from "@/core/course";
import { useSceneStore } from "@/store";
import { Choose } from "../kit";
import { courseOf, editTime, setKeyframe, takeCourse, takeKeyframes, useSession, type Timed } from "../state";

interface TideProps {
  at: Timed;
  label: string;
}

export function Tide({ at, label }: TideProps) {
  const course = useSceneStore((store) => courseOf(store.history.scene, at));
  const here = useSceneStore((store) => (course ? keyframeAt(course, store.moment) >= 0 : false));
  const shown = useSession((session) => isSame(session.course, at));
  if (!course) {
    return (
      <button
        type="button"
        aria-label={`Let ${label} change over time`}
        title="Let it change over time: a keyframe with this value at this moment"
        onClick={() => {
          setKeyframe(at);
          useSession.setState({ course: at, moments: [] });
        }}
        className="grid size-4.5 shrink-0 place-items-center rounded opacity-0 hover:bg-linen-2 focus-visible:opacity-100 group-hover/tide:opacity-60"
      >
        <Wave />
      </button>
    );
  }
  const act = (id: string) => {
    const { moment } = useSceneStore.getState();
    if (id === "set") setKeyframe(at);
    else if (id === "off") takeKeyframes([at], [moment]);
    else if (id === "stay") takeCourse(at);
    useSession.setState({ course: at, moments: [] });
  };
  return (
    <Choose
      label={`${label} changes over time${here ? ", with a keyframe here" : ""}`}
      choices={[
        here ? { id: "off", label: "Take the keyframe here off" } : { id: "set", label: "Keyframe here" },
        { id: "show", label: "Show its course" },
        { id: "stay", label: "Let it stay as it is now", danger: true },
      ]}
      onChoose={act}
      className={`grid size-4.5 shrink-0 place-items-center rounded hover:bg-linen-2 ${shown ? "bg-ochre-soft" : ""}`}
    >
      <Wave full here={here} />
    </Choose>
  );
}

const isSame = (a: Timed | null, b: Timed): boolean => a?.list === b.list && a.id === b.id && a.path === b.path;

/** A small wave; with a ring on it where there is a keyframe. */
function Wave({ full = false, here = false }: { full?: boolean; here?: boolean }) {
  return (
    <svg width="14" height="12" viewBox="0 0 14 12" aria-hidden>
      <path
        d="M1 6c1.5-4 4-4 6 0s4.500 4 6 0"
        fill="none"
        strokeWidth={full ? 1.9 : 1.4}
        strokeLinecap="round"
        className={full ? "stroke-ochre" : "stroke-ink-6"}
      />
      {here && <circle cx="7" cy="6" r="2.6" className="fill-paper stroke-wood-dark" strokeWidth="1.6" />}
    </svg>
  );
}

/** Shows the time bar though nothing changes yet, or hides it again. */
export const toggleTime = (): void =>
  editTime("Let it move", { shown: !useSceneStore.getState().history.scene.time.shown });
