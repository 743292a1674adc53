"use client";
/** The card of Where: the lines that a dressing runs along, the surfaces and areas that it is spread over, or what it fills. */
import { useRef, type ReactNode } from "react";
import { toast } from "sonner";
import { kindOf, type Dressing } from "@/core/place";
import { useScene } from "@/store";
import { InputError } from "@/core/schema";
import { asFileName, download, FilesInput, Fold } from "../../kit";
import { bringInPins, makeVolume, millimetre, pinsAsCsv, selectLine, selectSurface, useClosedLines } from "../../state";
import { cameraNow, addPlacementAt, startDrawing, startPinning } from "../../view";
import { ADD, StepChoice, type CardProps } from "../params";
import { GuideList } from "./GuideList";
import { changing, Outlines } from "./Outlines";
import { PatchCard } from "./PatchCard";
import { RackFields } from "./RackFields";
import { SownByHand } from "./SownByHand";
import { WrappedCard } from "./WrappedCard";

const KINDS: Readonly<Record<Dressing["where"]["kind"], (props: CardProps) => ReactNode>> = {
  along: Along,
  over: Over,
  inside: Inside,
  pinned: Pinned,
  patch: PatchCard,
  wrapped: WrappedCard,
  loose: Loose,
};

export function WhereCard({ dressing }: CardProps) {
  const Kind = KINDS[dressing.where.kind];
  return (
    <>
      <StepChoice dressing={dressing} step="where" name="kind" bare columns={3} />
      <Kind dressing={dressing} />
      {kindOf(dressing.where).sows && <SownByHand dressing={dressing} />}
    </>
  );
}

function Along({ dressing }: CardProps) {
  const lines = useScene((scene) => scene.lines);
  return (
    <>
      {dressing.where.lines.length === 0 && (
        <p className="text-xs text-ink-6">Choose a line for the props to follow.</p>
      )}
      <GuideList
        noun="line"
        things={lines}
        empty="All lines of the scene are in this dressing. Draw another one."
        onOpen={selectLine}
        {...changing({ dressing }, "lines")}
      >
        <button type="button" className={ADD} onClick={() => startDrawing()}>
          Draw line
        </button>
      </GuideList>
      <RackFields dressing={dressing} />
    </>
  );
}

function Over({ dressing }: CardProps) {
  const surfaces = useScene((scene) => scene.surfaces);
  const closed = useClosedLines();
  const { surfaces: chosen, areas, holes } = dressing.where;
  return (
    <>
      {chosen.length === 0 && areas.length === 0 && (
        <p className="text-xs text-ink-6">
          Choose a surface for the props to be spread over, or draw an area; an area without a surface is filled by
          itself.
        </p>
      )}
      <GuideList
        noun="surface"
        things={surfaces}
        empty={
          surfaces.length === 0
            ? "There is no surface in this scene yet. Bring one in on the right, under Surfaces."
            : "All surfaces of the scene are in this dressing."
        }
        onOpen={selectSurface}
        {...changing({ dressing }, "surfaces")}
      />
      <Fold
        label="Areas"
        help="Closed lines, seen from above: only what lies within one of them is filled."
        summary={areas.length > 0 ? String(areas.length) : "all of it"}
      >
        <Outlines dressing={dressing} list="areas" noun="area" lines={closed} />
      </Fold>
      <Fold
        label="Holes"
        help="Closed lines, seen from above, within which nothing stands."
        summary={holes.length > 0 ? String(holes.length) : ""}
      >
        <Outlines dressing={dressing} list="holes" noun="hole" lines={closed} />
      </Fold>
    </>
  );
}

function Inside({ dressing }: CardProps) {
  const surfaces = useScene((scene) => scene.surfaces);
  return (
    <>
      {dressing.where.volumes.length === 0 && (
        <p className="text-xs text-ink-6">Choose what the props shall fill: a box, or any closed surface.</p>
      )}
      <GuideList
        noun="volume"
        things={surfaces}
        empty="There is no other surface in this scene. Make a box."
        onOpen={selectSurface}
        {...changing({ dressing }, "volumes")}
      >
        <button type="button" className={ADD} onClick={() => makeVolume(dressing.id, cameraNow.target)}>
          Make a box
        </button>
      </GuideList>
    </>
  );
}

function Pinned({ dressing }: CardProps) {
  const file = useRef<HTMLInputElement>(null);
  const surfaces = useScene((scene) => scene.surfaces);
  const pins = Object.values(dressing.pegs);
  const bringIn = async ([given]: readonly File[]) => {
    try {
      const count = bringInPins(dressing.id, new Uint8Array(await given.arrayBuffer()), given.name);
      toast(`${count} ${count === 1 ? "pin was" : "pins were"} brought in.`);
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      toast.error(error.message);
    }
  };
  return (
    <>
      <p className="text-xs text-ink-6">
        A click in the view pins one where the pointer is on a surface. Each goes along wherever its surface goes and
        however it bends.
      </p>
      {pins.length > 0 && (
        <ul aria-label="Pinned to" className="grid gap-1">
          {[...new Set(pins.map(({ on }) => on))].map((on) => {
            const count = pins.filter((pin) => pin.on === on).length;
            const name = surfaces.find(({ id }) => id === on)?.name;
            return (
              <li key={on} className="flex items-center gap-2 rounded-lg bg-paper py-0.5 pl-2.5 pr-2 text-[12.5px]">
                {name === undefined ? (
                  <span className="grow text-ochre-dark">Its surface is gone</span>
                ) : (
                  <button
                    type="button"
                    className="grow truncate text-left hover:text-sea"
                    onClick={() => selectSurface(on)}
                  >
                    {name}
                  </button>
                )}
                <span className="font-mono text-xs text-ink-6">{count}</span>
              </li>
            );
          })}
        </ul>
      )}
      <div className="flex flex-wrap gap-1.5">
        <button type="button" className={ADD} onClick={startPinning} disabled={surfaces.length === 0}>
          Pin in the view
        </button>
        <button
          type="button"
          className={ADD}
          title="Columns x, y, z in the scene's metres, or u, v; besides, if wanted, surface, prop, turn, lift, size."
          onClick={() => file.current?.click()}
        >
          Bring in a CSV…
        </button>
        {pins.length > 0 && (
          <button
            type="button"
            className={ADD}
            onClick={() => download(pinsAsCsv(dressing.id), `${asFileName(dressing.name)}-pins.csv`)}
          >
            Save as CSV
          </button>
        )}
      </div>
      <FilesInput input={file} accept=".csv,text/csv" testId="pins-csv" onFiles={(files) => void bringIn(files)} />
    </>
  );
}

function Loose({ dressing }: CardProps) {
  const prop = dressing.what.entries.find((entry) => entry.prop !== null)?.prop;
  return (
    <>
      <p className="text-xs text-ink-6">
        Alt and click in the view puts one down where the pointer is on the ground; drag it to move it, Delete takes it
        away. Under Fit all of them are dropped in one go.
      </p>
      <button
        type="button"
        className={`${ADD} w-fit`}
        disabled={!prop}
        onClick={() => addPlacementAt(cameraNow.target.map(millimetre) as [number, number, number])}
      >
        Put one down here
      </button>
    </>
  );
}
