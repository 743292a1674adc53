"use client";
/** How large a drawing becomes and where it lies, asked before its outlines become lines. */
import { useState } from "react";
import { lengthParam } from "@/core/schema";
import type { DrawingPlace } from "@/core/files";
import { useSceneStore } from "@/store";
import { nextDrawing, usePending } from "../assets";
import { Button, Modal, Segmented, ValueField, type Edit } from "../kit";
import { bringDrawing, placeOfDrawing, sheetForDrawings } from "../state";
import { cameraNow } from "../view";

const WIDTH = lengthParam({ label: "Width", help: "", default: 1, above: 0, max: 100_000, slider: [0.1, 10] });

type Lies = "ground" | "upright" | "sheet";
const LIES: Readonly<Record<string, string>> = { ground: "On the ground", upright: "Upright" };
/** A new drawing on a sheet takes up no more than this share of it either way. */
const SHARE = 0.6;

/** What the directions of the drawing are in the world. */
const DIRECTIONS: Readonly<Record<Lies, Pick<DrawingPlace, "right" | "down">>> = {
  sheet: { right: [1, 0, 0], down: [0, 0, 1] },
  ground: { right: [1, 0, 0], down: [0, 0, 1] },
  upright: { right: [1, 0, 0], down: [0, -1, 0] },
};

export function DrawingDialog() {
  const [next] = usePending(({ waiting }) => waiting);
  return next && <Ask key={next.file} {...next} />;
}

function Ask({ file, drawing }: ReturnType<typeof usePending.getState>["waiting"][number]) {
  const before = placeOfDrawing(useSceneStore.getState().history.scene, file);
  const [width, setWidth] = useState(drawing.width * (before?.scale ?? 1));
  const [lies, setLies] = useState<Lies>("ground");
  const [sheet] = useState(sheetForDrawings);
  const { outlines, unread, height } = drawing;
  const holes = outlines.filter(({ hole }) => hole).length;
  const scale = width / drawing.width;
  const bring = (place: DrawingPlace) => {
    bringDrawing(drawing, file, place);
    nextDrawing();
  };
  const lieSo = (next: Lies) => {
    setLies(next);
    if (next !== "sheet" || !sheet) return;
    const [wide, high] = [0, 1].map((axis) => SHARE * (sheet.most[axis] - sheet.least[axis]));
    setWidth((now) => Math.min(now, round(Math.min(wide, (high * drawing.width) / height))));
  };
  const anew = () => {
    if (lies === "sheet" && sheet) {
      const [x, z] = [0, 1].map((axis) => (sheet.least[axis] + sheet.most[axis]) / 2);
      return bring({ ...DIRECTIONS.sheet, middle: [x, 0, z], scale, sheet: sheet.surface.id });
    }
    const [x, , z] = cameraNow.target.map((value) => Math.round(10 * value) / 10);
    const up = lies === "upright" ? (scale * height) / 2 : 0;
    bring({ ...DIRECTIONS[lies], middle: [x, up, z], scale });
  };
  return (
    <Modal title={`Bring in “${file}”`} onClose={nextDrawing} width="w-[420px]">
      <div className="grid gap-3">
        <p className="text-[13px]">
          {outlines.length === 0
            ? "There is no outline in it that can be read."
            : `${outlines.length} ${outlines.length === 1 ? "outline" : "outlines"}${holes > 0 ? `, ${holes} of them ${holes === 1 ? "a hole" : "holes"}` : ""}. Each becomes a line; arcs stay arcs.`}
        </p>
        {unread.length > 0 && <p className="text-xs text-ochre-dark">Not read: {unread.join(", ")}.</p>}
        {outlines.length > 0 && (
          <>
            <div className="grid grid-cols-[84px_120px_1fr] items-center gap-2 text-[12.5px]">
              <span className="text-ink-6">Width</span>
              <ValueField
                label="Width"
                unit="m"
                value={width}
                edit={edit(setWidth)}
                complaint={(value) => WIDTH.safeParse(value).error?.issues[0].message ?? null}
              />
              <span className="font-mono text-xs text-ink-6">× {figure(height * scale)} m</span>
            </div>
            {!before && (
              <div className="grid grid-cols-[84px_1fr] items-center gap-2 text-[12.5px]">
                <span className="text-ink-6">Lies</span>
                <Segmented
                  label="Lies"
                  value={lies}
                  choices={sheet ? { ...LIES, sheet: "On the sheet" } : LIES}
                  onChange={(next) => lieSo(next as Lies)}
                />
              </div>
            )}
            {!before && lies === "sheet" && sheet && (
              <p className="text-xs text-ink-6">
                In the middle of {sheet.surface.name}, which is{" "}
                {[0, 1].map((axis) => figure(sheet.most[axis] - sheet.least[axis])).join(" × ")} m laid flat. Its lines
                run over the surface as they do there.
              </p>
            )}
            {before && (
              <p className="text-xs text-ink-6">
                It was brought in before. Its lines take on what it says now, where they are; what hangs on them stays.
              </p>
            )}
          </>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={nextDrawing}>{outlines.length === 0 ? "Close" : "Leave it"}</Button>
          {outlines.length > 0 && (
            <Button look="main" onClick={() => (before ? bring({ ...before, scale }) : anew())}>
              {before ? "Bring it again" : "Bring it in"}
            </Button>
          )}
        </div>
      </div>
    </Modal>
  );
}

const round = (metres: number): number => Number(metres.toPrecision(2));

const figure = (value: number): string => value.toLocaleString("en", { maximumSignificantDigits: 3 });

/** A field of the dialog's own, which is no step to be undone. */
const edit = (set: (value: number) => void): Edit<number> => ({
  begin: () => undefined,
  drag: set,
  end: () => undefined,
  cancel: () => undefined,
  set,
});
