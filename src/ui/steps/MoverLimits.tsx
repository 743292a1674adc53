"use client";
/** How much a mover does where: within limits along u and v, by height, slope and facing, by distance, by pictures, and as painted. */
import { isFamily } from "@/core/line";
import { Fragment } from "react";
import { z } from "zod";
import type { Mover } from "@/core/movers";
import { GAP_LIMITS, type Limits } from "@/core/place";
import type { Surface } from "@/core/scene";
import { useScene } from "@/store";
import { boxOf } from "../assets";
import { Button, Fold } from "../kit";
import { editMover } from "../state";
import { startPainting, useMoverPainted } from "../view";
import { Distances } from "./cards/Distances";
import { limitsOfMover } from "./cards/limited";
import { Masks } from "./cards/Masks";
import { Painted } from "./cards/Painted";
import { PathChoice, PathNumber, PathRange, PathSwitch } from "./at-path";

export interface MoverProps<M extends Mover = Mover> {
  surface: Surface;
  mover: M;
}

const LIMITS = z.object(GAP_LIMITS);
const SHOWN: readonly {
  on: keyof Limits;
  ranges: readonly (keyof Limits)[];
  numbers: readonly (keyof Limits)[];
  by?: keyof Limits;
}[] = [
  { on: "uOn", by: "uBy", ranges: ["u"], numbers: ["uSoft"] },
  { on: "vOn", by: "vBy", ranges: ["v"], numbers: ["vSoft"] },
  { on: "heightOn", ranges: ["height"], numbers: ["heightSoft"] },
  { on: "slopeOn", ranges: ["slope"], numbers: ["slopeSoft"] },
  { on: "facingOn", ranges: [], numbers: ["facing", "facingWithin"] },
];

const paintedCount = ({ paint: { base, strokes } }: Limits): number => (strokes.length > 0 || base === "none" ? 1 : 0);

/** How much the mover does where: everywhere alike, or within limits. */
export function HowMuch({ surface, mover }: MoverProps) {
  const { limits } = mover;
  const painted = useMoverPainted();
  const schema = (name: keyof Limits) => GAP_LIMITS[name] as z.ZodType;
  const at = (name: keyof Limits) => ({
    list: "surfaces" as const,
    thing: surface,
    path: ["movers", mover.id, "limits", name],
    schema: schema(name),
  });
  const count = limits
    ? SHOWN.filter(({ on }) => limits[on]).length +
      limits.distances.length +
      limits.images.length +
      paintedCount(limits)
    : 0;
  return (
    <Fold
      label="How much where"
      help="Everywhere alike, or only within limits, which fade softly: so that a hem flutters and a seam stays."
      summary={count === 0 ? "everywhere" : String(count)}
    >
      <div className="grid gap-1.5">
        {!limits ? (
          <Button
            className="w-fit"
            onClick={() =>
              editMover(surface.id, mover.id, "How much where", (draft) => {
                draft.limits = { ...LIMITS.parse({}), uOn: true, uSoft: 0.2 } as typeof draft.limits;
              })
            }
          >
            Within limits
          </Button>
        ) : (
          <>
            {SHOWN.map(({ on, by, ranges, numbers }) => (
              <Fragment key={on}>
                <PathSwitch {...at(on)} />
                {limits[on] && (
                  <>
                    {by && <PathChoice {...at(by)} />}
                    {ranges.map((name) => (
                      <PathRange key={name} {...at(name)} />
                    ))}
                    {numbers.map((name) => (
                      <PathNumber key={name} {...at(name)} />
                    ))}
                  </>
                )}
              </Fragment>
            ))}
            <FromThings surface={surface} mover={mover} limits={limits as Limits} />
            <ByMasks surface={surface} mover={mover} limits={limits as Limits} />
            <Painted
              paint={limits.paint}
              chosen={painted?.mover === mover.id && painted.surface === surface.id}
              help="A brush takes away from what it does here, or puts it, on the surface as it is in the view."
              onStart={() => startPainting({ surface: surface.id, mover: mover.id })}
              onChange={(label, change) =>
                editMover(surface.id, mover.id, label, ({ limits: own }) => {
                  if (own) change(own.paint as Parameters<typeof change>[0]);
                })
              }
            />
            <Button
              className="w-fit"
              onClick={() => editMover(surface.id, mover.id, "Everywhere alike", (draft) => void (draft.limits = null))}
            >
              Everywhere alike
            </Button>
          </>
        )}
      </div>
    </Fold>
  );
}

type LimitsProps = MoverProps & { limits: Limits };

/** Lines and surfaces by whose distance it does more or less. */
function FromThings({ surface, mover, limits }: LimitsProps) {
  const lines = useScene((scene) => scene.lines);
  const surfaces = useScene((scene) => scene.surfaces).filter(({ id }) => id !== surface.id);
  return (
    <Distances
      of={limitsOfMover(surface, mover, limits)}
      things={[...lines.filter((line) => !isFamily(line)), ...surfaces]}
      help="To lines as seen from above, and to surfaces: it does nothing at the one distance, and all at the other."
      add={{ label: "More with the distance from", words: "By the distance from…", none: 0, full: 1 }}
    />
  );
}

/** Pictures over the surface, and the colours of its mesh. */
function ByMasks({ surface, mover, limits }: LimitsProps) {
  const [wide, , deep] = boxOf(surface);
  const [x, , z] = surface.position;
  const over = wide > 0 && deep > 0 ? ({ least: [x - wide / 2, z - deep / 2], most: [x + wide / 2, z + deep / 2] } as const) : null; // prettier-ignore
  return (
    <Masks
      of={limitsOfMover(surface, mover, limits)}
      over={over}
      help="Pictures, or the colours of the mesh: it does nothing where they are dark, and all where they are bright."
      testId="mover-picture"
    />
  );
}
