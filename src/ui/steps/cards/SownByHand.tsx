"use client";
/** What was sown by hand, and the hand that sows: how wide, how dense, how even. */
import { useMemo } from "react";
import { countThere } from "@/core/place";
import { describeParam, lengthParam, shareParam } from "@/core/schema";
import { useScene } from "@/store";
import { Button, Fold, Segmented } from "../../kit";
import { gatherAll, useSession } from "../../state";
import { NARROWEST, startSowing, stopSowing, takesSowing, useSower, WIDEST } from "../../view";
import { ToolNumber } from "./ToolNumber";
import type { CardProps } from "../params";

const HAND = {
  radius: describeParam(
    lengthParam({ label: "Hand", help: "How far the hand reaches; the wheel makes it wider.", default: 1, above: 0, slider: [0.1, 8] }),
  ),
  distance: describeParam(
    lengthParam({ label: "One every", help: "There is one for each square of so many metres.", default: 0.5, above: 0, slider: [0.05, 5] }),
  ),
  even: describeParam(
    shareParam({ label: "Even", help: "From wherever they fall to as far from each other as there is room for.", default: 0.7, slider: [0, 1] }),
  ),
}; // prettier-ignore

export function SownByHand({ dressing }: CardProps) {
  const { sown, spacing } = dressing;
  const sowing = useSession(({ tool }) => tool === "sow");
  const anywhere = useScene(({ surfaces }) => surfaces.length > 0);
  const { gathers, radius, distance, even } = useSower();
  const count = useMemo(() => sown.reduce((sum, { places }) => sum + countThere(places), 0), [sown]);
  const set = useSower.setState;
  return (
    <Fold
      label="Sown by hand"
      help="A hand puts many down as it is led over surfaces, by the dressing's own mix, its limits and what it keeps clear of."
      summary={count > 0 ? count.toLocaleString("en") : ""}
    >
      {sowing && (
        <>
          <Segmented
            label="What the hand does"
            value={gathers ? "gathers" : "sows"}
            choices={{ sows: "Sow", gathers: "Gather" }}
            onChange={(next) => set({ gathers: next === "gathers" })}
          />
          <ToolNumber
            param={HAND.radius}
            value={radius}
            standard={1}
            onChange={(next) => set({ radius: next })}
            least={NARROWEST}
            most={WIDEST}
          />
          <ToolNumber
            param={HAND.distance}
            value={distance ?? spacing.distance}
            standard={spacing.distance}
            onChange={(next) => set({ distance: next === spacing.distance ? null : next })}
            least={1e-3}
          />
          <ToolNumber
            param={HAND.even}
            value={even}
            standard={0.7}
            onChange={(next) => set({ even: next })}
            least={0}
            most={1}
          />
        </>
      )}
      <div className="flex gap-1.5">
        <Button
          className="h-7! text-xs"
          disabled={!sowing && !(anywhere && takesSowing(dressing))}
          onClick={sowing ? stopSowing : startSowing}
        >
          {sowing ? "Done sowing" : "Sow…"}
        </Button>
        {count > 0 && (
          <Button className="h-7! text-xs" onClick={() => gatherAll(dressing.id, "Gather it all")}>
            Gather it all
          </Button>
        )}
      </div>
    </Fold>
  );
}
