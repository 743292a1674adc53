/**
 * What anchors lie on: the protocol that every kind of Where keeps, whatever it is spread over or runs along.
 */
import type { Ask } from "../graph";
import type { GuideLine } from "../line";
import type { Frames, Moves } from "./frames";
import type { DensityMask } from "./gaps/density-mask";
import type { BroughtUp, Pegged } from "./pegs";
import type { Dressing } from "./schema";
import type { Sources } from "./sources";
import type { Hold } from "./stance/stance";
import type { PropChoice } from "./what/what";
import type { Field } from "../host";

export type Remembering = Pick<Ask, "step" | "progress">;

/** What slots are filled with, as far as that bears on where they lie. */
export interface Filling {
  /** What the rules choose from. */
  rules: PropChoice;
  /** The same, and behind it what pegs ask for besides. */
  choice: PropChoice;
  hold: Hold;
}

/** *Where on which host the slots lie*: on lines or on fields, which their `line` counts. */
export interface Anchored extends Pegged {
  lines: readonly GuideLine[];
  fields: readonly Field[];
  /** How full each field is where. */
  masks: readonly DensityMask[];
  /** Pegs of version 5, where there are some. */
  brought: BroughtUp | null;
}

export interface Host {
  /** Spacing and pegs: on surfaces at rest, and without time. */
  anchors(ask: Remembering, dressing: Dressing, from: Sources, filling: Filling): Anchored;
  /** The same anchors where their hosts are at the moment; the very same where none has moved. */
  carried(ask: Remembering, anchored: Anchored, dressing: Dressing, from: Sources): Anchored;
  /** The frames of the hosts at the anchors, moved by offsets, rows and draws. */
  frames(ask: Remembering, anchored: Anchored, hold: Hold, moves: Moves, dressing: Dressing, from: Sources): Frames;
}
