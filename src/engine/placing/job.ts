/** What the server asks of a process that places, and what it allows it. */
import type { FormatName } from "@/core/files";

export interface PlacingJob {
  /** The project file, and where the placements are written. */
  from: string;
  to: string;
  format: FormatName;
  /** Only the dressing of this name. */
  dressing?: string;
  /** A frame, or the first and the last of several. */
  frame?: number;
  frames?: readonly [number, number];
  /** Whether surfaces and lines are written too, where the form holds them. */
  surfaces?: boolean;
  /** Whether assemblies are nodes of their own, where each placement is one. */
  nested?: boolean;
  lines?: boolean;
}

/** How it went: an HTTP status, and what was wrong. */
export interface PlacingOutcome {
  status: number;
  detail?: string;
}

/** Bytes of a project file, and what of it may be unpacked. */
export const MAX_UPLOAD = 64 * 1024 ** 2;
export const MAX_UNPACKED = 256 * 1024 ** 2;
export const MAX_PLACEMENTS = 500_000;
/** Bytes that one process may take in all. */
export const MAX_MEMORY = 1.5 * 1024 ** 3;
/** Milliseconds for one scene. */
export const MAX_WORK = 20_000;
