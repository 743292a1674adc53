"use client";
/** Painting with a brush where things stand, or where a mover does how much. */
import { paintSchema, type Dressing } from "@/core/place";
import { describeChoice, describeParam, lengthParam, shareParam, type ParamDescription } from "@/core/schema";
import { Button, Fold, Segmented } from "../../kit";
import { editDressing, useSession } from "../../state";
import { startPainting, stopPainting, useBrush, useMoverPainted, type Brush } from "../../view";
import { ToolNumber } from "./ToolNumber";
import type { CardProps } from "../params";
import type { Draft } from "immer";

type Paint = Dressing["gaps"]["paint"];

const BRUSH: Readonly<Record<"radius" | "strength" | "soft", ParamDescription>> = {
  radius: describeParam(
    lengthParam({ label: "Brush", help: "How far the brush reaches.", default: 1.5, above: 0, slider: [0.1, 8] }),
  ),
  strength: describeParam(
    shareParam({ label: "Strength", help: "How much one stroke does.", default: 1, slider: [0, 1] }),
  ),
  soft: describeParam(
    shareParam({
      label: "Softness",
      help: "How much of the brush fades towards its rim.",
      default: 0.5,
      slider: [0, 1],
    }),
  ),
};

/** What a dressing's things are painted with. */
export const PaintedGaps = ({ dressing }: CardProps) => (
  <Painted
    paint={dressing.gaps.paint}
    chosen={useMoverPainted() === null}
    help="A brush takes things away or puts them, in the view and on the sheet."
    onStart={() => startPainting()}
    onChange={(label, change) => editDressing(dressing.id, label, ({ gaps }) => change(gaps.paint))}
  />
);

interface PaintedProps {
  paint: Paint;
  /** Whether it is this that the brush paints, if it paints. */
  chosen: boolean;
  help: string;
  onStart: () => void;
  onChange: (label: string, change: (paint: Draft<Paint>) => void) => void;
}

/** What is painted with a brush, of a dressing or of a mover. */
export function Painted({ paint: { base, strokes }, chosen, help, onStart, onChange }: PaintedProps) {
  const painting = useSession((session) => session.tool === "paint") && chosen;
  const puts = useBrush((brush) => brush.puts);
  const unpainted = describeChoice(paintSchema.shape.base);
  const said = strokes.length > 0 ? `${strokes.length} ${strokes.length === 1 ? "stroke" : "strokes"}` : "";
  return (
    <Fold label="Painted" help={help} summary={said || (base === "none" ? "nothing yet" : "")}>
      <div className="grid grid-cols-[84px_1fr] items-center gap-2" title={unpainted.help}>
        <span className="text-[12.5px] text-ink-6">{unpainted.label}</span>
        <Segmented
          label={unpainted.label}
          help={unpainted.help}
          value={base}
          choices={unpainted.choices}
          onChange={(next) => onChange("Unpainted", (paint) => void (paint.base = next as typeof base))}
        />
      </div>
      {painting && (
        <>
          <Segmented
            label="What the brush does"
            value={puts ? "puts" : "takes"}
            choices={{ takes: "Take away", puts: "Put" }}
            onChange={(next) => useBrush.setState({ puts: next === "puts" })}
          />
          {(["radius", "strength", "soft"] as const).map((name) => (
            <BrushNumber key={name} name={name} />
          ))}
        </>
      )}
      <div className="flex gap-1.5">
        <Button className="h-7! text-xs" onClick={painting ? stopPainting : onStart}>
          {painting ? "Done painting" : "Paint…"}
        </Button>
        {strokes.length > 0 && (
          <Button
            className="h-7! text-xs"
            onClick={() => onChange("Wipe the painting", (paint) => void (paint.strokes = []))}
          >
            Wipe it all
          </Button>
        )}
      </div>
    </Fold>
  );
}

/** A number of the brush. */
function BrushNumber({ name }: { name: keyof typeof BRUSH }) {
  const value = useBrush((brush) => brush[name]);
  const [least, most] = name === "radius" ? [1e-3, Infinity] : [0, 1];
  return (
    <ToolNumber
      param={BRUSH[name]}
      value={value}
      standard={name === "soft" ? 0.5 : name === "radius" ? 1.5 : 1}
      onChange={(next) => useBrush.setState({ [name]: next } as Partial<Brush>)}
      least={least}
      most={most}
    />
  );
}
