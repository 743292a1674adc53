"use client";
/** The cord with the dressings pegged to it as tags, in the artist's own order. */
import { horizontalListSortingStrategy, useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { ChevronDown } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { isRecipeKind, type Dressing } from "@/core/place";
import { useScene } from "@/store";
import { Choose, NameField, Sorted } from "../kit";
import {
  deleteDressing,
  duplicateDressing,
  editDressing,
  moveDressing,
  useFindings,
  usePlacements,
  useResults,
  selectDressing,
  useSession,
} from "../state";

export function Cord() {
  const dressings = useScene((scene) => scene.dressings);
  return (
    <nav aria-label="Dressings" className="relative min-w-0">
      <svg
        className="pointer-events-none absolute inset-0 h-16 w-full"
        viewBox="0 0 668 64"
        preserveAspectRatio="none"
        aria-hidden
      >
        <path
          d="M0 10 Q334 21 668 8"
          fill="none"
          stroke="#8f7650"
          strokeWidth="1.6"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <div className="flex">
        <div className="flex h-16 min-w-0 items-start gap-3.5 overflow-x-auto overflow-y-hidden pl-3 pr-5 pt-3.5 [mask-image:linear-gradient(to_right,black_calc(100%-20px),transparent)]">
          <Sorted
            id="cord"
            ids={dressings.map(({ id }) => id)}
            strategy={horizontalListSortingStrategy}
            onMove={moveDressing}
          >
            {dressings.map((dressing) => (
              <Tag key={dressing.id} dressing={dressing} />
            ))}
          </Sorted>
        </div>
        <button
          type="button"
          onClick={() => useSession.setState({ dialog: "dress" })}
          className={`${SHAPE} -ml-1.5 mr-3 mt-3.5 border-dashed border-linen-4 bg-linen-0 hover:bg-linen-1`}
        >
          <Peg />+ Dress…
        </button>
      </div>
    </nav>
  );
}

const SHAPE =
  "relative flex h-8 shrink-0 scroll-mx-6 items-center gap-2 whitespace-nowrap rounded-b-[9px] rounded-t-[3px] border px-3 text-[12.5px]";

/** The wooden peg that holds a tag to the cord. */
function Peg() {
  return (
    <span
      aria-hidden
      className="absolute -top-2 left-1/2 -ml-[2.5px] h-3.5 w-[5px] rounded-sm bg-wood shadow-[inset_-1px_0_#8f6a3a]"
    />
  );
}

function Tag({ dressing }: { dressing: Dressing }) {
  const chosen = useSession((session) => session.dressing === dressing.id);
  const placements = usePlacements(dressing.id);
  const findings = useFindings(dressing.id).length;
  const [renaming, setRenaming] = useState(false);
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({
    id: dressing.id,
    disabled: renaming,
  });
  const tag = useRef<HTMLDivElement | null>(null);
  useEffect(() => {
    if (chosen) tag.current?.scrollIntoView({ inline: "nearest", block: "nearest" });
  }, [chosen]);
  const whole = useResults((results) => results.byDressing.get(dressing.id)?.apart?.placements.count);
  // Of assemblies all that is in them counts.
  const shown = placements ? (whole ?? placements.count - placements.blanks) : null;
  const state =
    shown === null ? "looking…" : findings > 0 ? `${findings} ${findings === 1 ? "finding" : "findings"}` : "all well";
  const act = (action: string) => {
    if (action === "rename") setRenaming(true);
    else if (action === "duplicate") duplicateDressing(dressing.id);
    else if (action === "recipe") useSession.setState({ dialog: "save-recipe" });
    else if (action === "keep") useSession.setState({ dialog: "keep" });
    else deleteDressing(dressing.id);
  };
  return (
    <div
      ref={(element) => {
        setNodeRef(element);
        tag.current = element;
      }}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`${SHAPE} ${chosen ? "border-madder bg-madder font-medium text-white" : "border-linen-3 bg-linen-0 text-ink-6 hover:bg-linen-1"}`}
    >
      <Peg />
      {renaming ? (
        <NameField
          label="Name of the dressing"
          value={dressing.name}
          onChange={(name) => editDressing(dressing.id, "Rename dressing", (draft) => void (draft.name = name))}
          onDone={() => setRenaming(false)}
          className="w-32 text-ink-9"
        />
      ) : (
        <button
          type="button"
          {...attributes}
          {...listeners}
          aria-pressed={chosen}
          title={state}
          aria-roledescription="dressing"
          onClick={() => selectDressing(dressing.id)}
          onDoubleClick={() => setRenaming(true)}
          className="flex h-full touch-none items-center gap-2"
        >
          <span
            aria-hidden
            className={`grid size-2 place-items-center ${shown === null ? "rounded-full border border-current opacity-60" : findings > 0 ? "rotate-45 bg-ochre" : chosen ? "rounded-full bg-[#fff]" : "rounded-full bg-moss"}`}
          />
          {`${dressing.name} `}
          <span className={`font-mono text-[11px] ${chosen ? "" : "text-ink-5"}`}>
            {shown?.toLocaleString("en") ?? "…"}
          </span>
          <span className="sr-only">{` props, ${state}`}</span>
        </button>
      )}
      {chosen && !renaming && (
        <Choose
          label={`More for ${dressing.name}`}
          choices={[
            { id: "rename", label: "Rename" },
            { id: "duplicate", label: "Duplicate" },
            ...(isRecipeKind(dressing.where) ? [{ id: "recipe", label: "Save as a recipe…" }] : []),
            { id: "keep", label: "Keep as an assembly…" },
            { id: "delete", label: "Delete", danger: true },
          ]}
          onChoose={act}
          className="-mr-1.5 grid size-5 place-items-center rounded hover:bg-white/20"
        >
          <ChevronDown size={13} />
        </Choose>
      )}
    </div>
  );
}
