"use client";
/** What is selected of the dressing, and what can be done with it by hand. */
import { X } from "lucide-react";
import { useMemo } from "react";
import { toast } from "sonner";
import type { Vec3 } from "@/core/math";
import { FLAG, kindOf, type Dressing, type Placements, type Key, indicesOf } from "@/core/place";
import { useScene } from "@/store";
import { usePropChoices } from "../basket";
import { Button, Choose, IconButton, ValueField } from "../kit";
import {
  dressingOf,
  holdLoose,
  openAssembly,
  takeApart,
  pegAt,
  turnOf,
  unhook,
  pinPlacements,
  removePlacements,
  setTurn,
  swapPlacements,
  unpeg,
  setSize,
  writePegs,
  usePlacements,
  NO_KEYS,
  useSession,
  useEdit,
} from "../state";

import { nearestIn } from "../view";
import { HeldBy } from "./HeldBy";
import { PinPanel } from "./PinPanel";
import { StretchFields } from "./StretchFields";

/** Indices of the selected placements that are still there. */
function selectedIn(placements: Placements | undefined, keys: ReadonlySet<Key>): number[] {
  if (!placements || keys.size === 0) return [];
  return indicesOf(placements.key, keys);
}

/** Takes placements out of their dressing and pins them to the nearest surface. */
function pinWhereTheyAre(dressing: Dressing, placements: Placements, chosen: readonly number[]): void {
  const { origin, position, props, prop, key } = placements;
  const places = chosen.flatMap((i) => {
    const point = [0, 1, 2].map((k) => origin[k] + position[3 * i + k]) as unknown as Vec3;
    const place = nearestIn.surfaces(point);
    const id = props[prop[i]];
    return place && id ? [{ key: key[i], prop: id, place }] : [];
  });
  if (places.length === 0) toast.error("There is no surface in the scene that they could be pinned to.");
  else pinPlacements(dressing.id, places);
}

export function PlacementPanel({ dressing }: { dressing: Dressing }) {
  const keys = useSession((session) => session.keys);
  const placements = usePlacements(dressing.id);
  const props = useScene((scene) => scene.props);
  const choices = usePropChoices();
  const chosen = useMemo(() => selectedIn(placements, keys), [placements, keys]);
  const edit = useEdit<number>("Move along the line", (scene, at) => {
    const draft = dressingOf(scene, dressing.id);
    if (draft) writePegs(draft, keys, (peg) => void (peg.at = at));
  });
  const turning = useEdit<number>("Turn placement", (scene, turn) => {
    const draft = dressingOf(scene, dressing.id);
    if (draft) writePegs(draft, keys, (peg) => setTurn(peg, turn));
  });
  const sizing = useEdit<number>("Size of placement", (scene, size) => {
    const draft = dressingOf(scene, dressing.id);
    if (draft) writePegs(draft, keys, (peg) => setSize(peg, size));
  });
  if (!placements || chosen.length === 0) return null;
  const first = chosen[0];
  const propId = placements.props[placements.prop[first]];
  const name =
    chosen.length > 1 ? `${chosen.length} placements` : (props.find((p) => p.id === propId)?.name ?? "Blank");
  const pegged = chosen.some((i) => placements.flags[i] & FLAG.pegged);
  const blank = chosen.every((i) => placements.flags[i] & FLAG.blank);
  const { ordered, ruled, pins } = kindOf(dressing.where);
  const loose = !ordered && !ruled && !pins;
  const isAssembly = new Set(props.flatMap(({ id, assembly }) => (assembly ? id : [])));
  const assembled = chosen.flatMap((i) => {
    const prop = placements.props[placements.prop[i]];
    return isAssembly.has(prop) && !(placements.flags[i] & FLAG.blank) ? prop : [];
  });
  const length = placements.lineLengths[placements.line[first]];
  return (
    <section aria-label="Selection" className="border-t border-linen-2 bg-ochre-soft/60 px-4 py-3">
      <div className="mb-2 flex items-center gap-2">
        <b className="grow truncate font-semibold">
          {name}
          {blank && chosen.length === 1 && placements.flags[first] & FLAG.pegged ? ", left blank by hand" : ""}
        </b>
        {pegged && <span className="rounded-full bg-ochre-soft px-2 py-0.5 text-[11px] text-ochre-dark">pegged</span>}
        <IconButton
          label="Select nothing"
          className="-mr-1.5 size-6.5"
          onClick={() => useSession.setState({ keys: NO_KEYS })}
        >
          <X size={14} />
        </IconButton>
      </div>
      {chosen.length === 1 && placements.lines.length > 0 && (
        <div className="mb-2 flex items-center gap-2 text-[12.5px] text-ink-6">
          At
          <ValueField
            label="Place along the line"
            unit="m"
            value={Math.round(placements.at[first] * 1e4) / 1e4}
            edit={edit}
            complaint={(value) =>
              value < 0 || value > length ? `the line runs from 0 to ${length.toFixed(2)} m` : null
            }
            className="w-24"
          />
          along the line
        </div>
      )}
      {kindOf(dressing.where).pins && <PinPanel dressing={dressing} keys={keys} />}
      {placements.lines.length === 0 && !kindOf(dressing.where).pins && (
        <p className="mb-2 text-[12.5px] text-ink-6">
          {loose ? "Drag it over the ground to move it." : "Drag it over the surface to move it by hand."}
        </p>
      )}
      {loose && <Hung dressing={dressing} keys={keys} />}
      {loose && (
        <div className="mb-2">
          <HeldBy
            tie={pegAt(dressing, placements.key[first])?.held ?? null}
            but={dressing.id}
            onHold={(holder) => holdLoose(dressing.id, keys, holder)}
          />
        </div>
      )}
      {!blank && (
        <div
          className="mb-2 flex items-center gap-2 text-[12.5px] text-ink-6"
          title="About its own up, besides all else that turns it. The keys , and . turn it by 5°, with Shift by 45°."
        >
          Turned
          <ValueField
            label="Turned by hand"
            unit="rad"
            value={turnOf(pegAt(dressing, placements.key[first]) ?? {})}
            edit={turning}
            complaint={(value) => (Math.abs(value) > 2 * Math.PI ? "a whole turn is enough" : null)}
            className="w-24"
          />
          by hand
        </div>
      )}
      {!blank && !ordered && !pins && (
        <div
          className="mb-2 flex items-center gap-2 text-[12.5px] text-ink-6"
          title="So many times as large as the rules have it. On the sheet its corner can be pulled."
        >
          Sized
          <ValueField
            label="Sized by hand"
            unit="factor"
            value={pegAt(dressing, placements.key[first])?.size ?? 1}
            edit={sizing}
            complaint={(value) => (value > 0 && value <= 1e6 ? null : "a size is above zero")}
            className="w-24"
          />
          by hand
        </div>
      )}
      {!blank && <StretchFields dressing={dressing} keys={keys} />}
      <div className="flex flex-wrap gap-1.5">
        <Choose
          label="Swap for another prop"
          choices={choices}
          onChoose={(prop) => swapPlacements(dressing.id, keys, prop)}
          className="h-7 rounded-lg border border-linen-3 bg-linen-0 px-2.5 text-xs hover:bg-paper"
        >
          Swap…
        </Choose>
        {assembled.length > 0 && (
          <>
            <Button className="h-7! text-xs" onClick={() => openAssembly(assembled[0])}>
              Open
            </Button>
            <Button
              className="h-7! text-xs"
              title="What is in it stands there by itself from then on, just as it stands now."
              onClick={() => takeApart(dressing.id, keys)}
            >
              Take apart
            </Button>
          </>
        )}
        {!blank && (
          <Button className="h-7! text-xs" onClick={() => removePlacements(dressing.id, keys)}>
            {kindOf(dressing.where).pins ? "Take off" : "Leave blank"}
          </Button>
        )}
        {!blank && !kindOf(dressing.where).pins && (
          <Button
            className="h-7! text-xs"
            title="Takes them out of this dressing and pins each to the nearest place of a surface, with which it goes along."
            onClick={() => pinWhereTheyAre(dressing, placements, chosen)}
          >
            Pin where they are
          </Button>
        )}
        {pegged && !kindOf(dressing.where).pins && (
          <Button className="h-7! text-xs" onClick={() => unpeg(dressing.id, keys)}>
            {chosen.length === 1 ? "Take peg off" : "Take pegs off"}
          </Button>
        )}
      </div>
    </section>
  );
}

/** What what is selected hangs by. */
function Hung({ dressing, keys }: { dressing: Dressing; keys: ReadonlySet<Key> }) {
  const hangs = [...keys].flatMap((key) => pegAt(dressing, key)?.hangs ?? []);
  if (hangs.length === 0) return null;
  return (
    <div className="mb-2 flex items-center gap-2 text-[12.5px] text-ink-6">
      <span className="grow truncate">
        {hangs.length === 1 ? `Hangs by its ${hangs[0].by}` : `${hangs.length} of them hang`}
      </span>
      <Button className="h-6.5! text-xs" onClick={() => unhook(dressing.id, keys)}>
        Unhook
      </Button>
    </div>
  );
}
