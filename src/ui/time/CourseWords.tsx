"use client";
/** To the right of the ruler: what changes, how it goes on, and what can be done with its keyframes. */
import { memo } from "react";
import { keyframeSchema, courseSchema } from "@/core/course";
import { describeChoice } from "@/core/schema";
import { meantMoment, useSceneStore } from "@/store";
import { Choose, type Choice } from "../kit";
import { courseOf, moveKeyframes, setBeyond, setGo, takeCourse, takeKeyframes, timedOf, useSession } from "../state";
import { useTargets } from "./targets";

const GO = describeChoice(keyframeSchema.shape.go).choices;
const BEYOND = { before: describeChoice(courseSchema.shape.before), after: describeChoice(courseSchema.shape.after) };

export const CourseWords = memo(function CourseWords() {
  const scene = useSceneStore((store) => store.history.scene);
  const picked = useSession((session) => session.moments);
  const { targets, moments } = useTargets();
  // Undone or taken off, they are held no longer.
  const held = picked.filter((at) => moments.includes(at));
  if (targets.length === 0)
    return (
      <p className="self-center px-3 text-xs text-ink-6 max-[959px]:hidden">
        The wave beside a number lets it change over time.
      </p>
    );
  const only = targets.length === 1 ? targets[0] : null;
  const course = only && courseOf(scene, only);
  const about = only && timedOf(scene, only);
  const chosen = held.length > 0 ? held : moments.slice(-1);
  const first = course?.keyframes.find(({ at }) => chosen.includes(at));
  const words =
    course && first ? `${GO[first.go].toLowerCase()}, then ${BEYOND.after.choices[course.after].toLowerCase()}` : null;
  const choices: Choice[] = [
    ...Object.entries(GO).map(([id, label]) => ({ id: `go ${id}`, label, ...(id === "smooth" && { group: held.length > 0 ? "From the keyframes held" : "From all keyframes" }) })), // prettier-ignore
    ...(only
      ? (["before", "after"] as const).flatMap(
          (side) =>
          Object.entries(BEYOND[side].choices).map(([id, label], i) => ({ id: `${side} ${id}`, label, ...(i === 0 && { group: side === "before" ? "Before the first" : "After the last" }) })), // prettier-ignore
        )
      : []),
    { id: "copy", label: "Copy the keyframes held to this moment", disabled: held.length === 0, group: "Keyframes" },
    { id: "off", label: "Take the keyframes held off", disabled: held.length === 0 },
    ...(only ? [{ id: "stay", label: "Let it stay as it is now", danger: true }] : []),
  ];
  const act = (id: string) => {
    const [what, how] = id.split(" ");
    if (what === "go") setGo(targets, held.length > 0 ? held : moments, how as keyof typeof GO as never);
    else if (what === "copy")
      moveKeyframes(targets, { moments: held, to: (t) => t - Math.min(...held) + meantMoment(), copied: true }); // prettier-ignore
    else if (what === "off") takeKeyframes(targets, held);
    else if (what === "stay" && only) takeCourse(only);
    else if (only) setBeyond(only, what as "before" | "after", how as never);
  };
  return (
    <div className="grid min-w-0 content-center gap-0.5 px-3 text-xs max-[959px]:hidden">
      <p className="truncate text-ink-6" title={about ? `${about.label} of ${about.of}` : undefined}>
        {about ? `${about.label} of ${about.of}` : `${targets.length} values change`}
      </p>
      <Choose
        label={words ? `How it goes on: ${words}` : "How it goes on"}
        choices={choices}
        onChoose={act}
        className="justify-self-start truncate border-b border-dotted border-linen-4 font-medium hover:border-ink-6"
      >
        {words ?? "How it goes on"}
      </Choose>
    </div>
  );
});
