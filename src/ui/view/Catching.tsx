"use client";
/** Choosing what knots catch on while they are drawn and moved. */
import { Popover, PopoverButton, PopoverPanel } from "@headlessui/react";
import { Toggle, ValueField } from "../kit";
import { useSession } from "../state";

export function Catching() {
  const snap = useSession((session) => session.snap);
  const set = (change: Partial<typeof snap>) => useSession.setState({ snap: { ...snap, ...change } });
  return (
    <Popover className="border-l border-linen-2 pl-1">
      <PopoverButton className="flex h-full items-center rounded-md px-2.5 text-xs text-ink-6 hover:bg-linen-1">
        Catch
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: "bottom start", gap: 8, padding: 8 }}
        className="z-40 grid w-60 gap-2 rounded-[10px] border border-linen-2 bg-linen-0 p-3 shadow-float"
      >
        <Toggle
          label="On knots, marks and snap points"
          help="What is drawn or moved catches on knots, ends and marks of lines, and on the snap points of props."
          on={snap.knots}
          onChange={(knots) => set({ knots })}
        />
        {snap.knots && (
          <>
            <Toggle
              label="Knots stay tied"
              help="A knot goes along with what it was caught on, until it is pulled off."
              on={snap.tie}
              onChange={(tie) => set({ tie })}
            />
            <Toggle
              label="Props stay tied"
              help="A loose prop, a pin or the handle of a patch goes along with what it was caught on, until it is pulled off."
              on={snap.tieProps}
              onChange={(tieProps) => set({ tieProps })}
            />
          </>
        )}
        <Toggle
          label="On a grid"
          help="On the level, in steps."
          on={snap.grid > 0}
          onChange={(on) => set({ grid: on ? 0.5 : 0 })}
        />
        {snap.grid > 0 && (
          <label className="flex items-center justify-between text-[12.5px] text-ink-6">
            Grid
            <ValueField
              label="Grid"
              unit="m"
              value={snap.grid}
              edit={{ ...STILL, set: (grid) => set({ grid }) }}
              complaint={(grid) => (grid > 0 ? null : "a grid has steps above zero")}
              className="w-20"
            />
          </label>
        )}
        <p className="text-xs text-ink-6">
          Hold Ctrl to catch on nothing for once; Q lets go until it is put down. The wheel goes through what lies close
          by.
        </p>
      </PopoverPanel>
    </Popover>
  );
}

/** A value that is no part of the scene needs no undo. */
const STILL = { begin: () => undefined, drag: () => undefined, end: () => undefined, cancel: () => undefined };
