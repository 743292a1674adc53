/**
 * *Placing for others, in processes of its own*: the server does nothing of it itself.
 *
 * Processes and not threads, since arrays of numbers lie outside of what can be limited of a thread; and a few of our own
 * instead of a library's pool, since they are ended from outside as a matter of course.
 */
import { spawn, type ChildProcess } from "node:child_process";
import { once } from "node:events";
import { availableParallelism } from "node:os";
import { join } from "node:path";
import { MAX_MEMORY, MAX_WORK, type PlacingJob, type PlacingOutcome } from "./job";

export { MAX_UPLOAD } from "./job";

const PROCESSES = Math.max(1, availableParallelism() - 1);
/** So many more may be read or wait for their turn. */
const WAITING = 2 * PROCESSES + 2;
/** A process that has had nothing to do for so long ends, milliseconds. */
const IDLE = 60_000;

/** Processes that have nothing to do, each with the timer that ends it. */
const idle = new Map<ChildProcess, NodeJS.Timeout>();
const queue: (() => void)[] = [];
let working = 0;
let inside = 0;

/** A place among those that are read, wait or are worked on; null where there is none. Has to be left again. */
export function enter(): (() => void) | null {
  if (inside >= PROCESSES + WAITING) return null;
  inside++;
  return () => void inside--;
}

/**
 * Places a project file once it is its turn. Ends when it takes too long or too much memory, and when whoever asked has gone.
 *
 * @throws what the signal says
 */
export async function placeFile(job: PlacingJob, signal: AbortSignal): Promise<PlacingOutcome> {
  await turn(signal);
  try {
    return await placedBy(taken() ?? started(), job, signal);
  } finally {
    const next = queue.shift();
    if (next) next();
    else working--;
  }
}

/** Waits for one of the turns there are; whoever has one hands it on. */
async function turn(signal: AbortSignal): Promise<void> {
  signal.throwIfAborted();
  if (working < PROCESSES) return void working++;
  await new Promise<void>((resolve, reject) => {
    const go = () => {
      signal.removeEventListener("abort", leave);
      resolve();
    };
    const leave = () => {
      queue.splice(queue.indexOf(go), 1);
      reject(signal.reason as Error);
    };
    signal.addEventListener("abort", leave);
    queue.push(go);
  });
}

async function placedBy(process: ChildProcess, job: PlacingJob, signal: AbortSignal): Promise<PlacingOutcome> {
  const late = AbortSignal.timeout(MAX_WORK);
  const over = new AbortController();
  const until = { signal: AbortSignal.any([late, signal, over.signal]) };
  try {
    process.send(job);
    const told = once(process, "message", until).then(([outcome]) => outcome as PlacingOutcome);
    const ended = once(process, "exit", until).then(([, by]) => outcomeOfEnd(by as string | null));
    const outcome = await Promise.race([told, ended]);
    if (process.connected) keep(process);
    return outcome;
  } catch (error) {
    process.kill("SIGKILL");
    if (late.aborted && !signal.aborted)
      return { status: 413, detail: "The scene takes too long to place. Ask for one dressing at a time." };
    throw error;
  } finally {
    over.abort();
  }
}

/** Node ends itself where its own heap is full, what looks at all that it takes ends it otherwise. */
const outcomeOfEnd = (signal: string | null): PlacingOutcome =>
  signal === "SIGKILL" || signal === "SIGABRT"
    ? { status: 413, detail: `The scene takes more than ${MAX_MEMORY / 1024 ** 3} GB to place.` }
    : { status: 500, detail: "The scene could not be placed." };

function started(): ChildProcess {
  const program = join(globalThis.process.cwd(), ".next", "placing.mjs");
  const process = spawn(globalThis.process.execPath, [program], { stdio: ["ignore", "ignore", "ignore", "ipc"] });
  // One that cannot be started or written to has ended, or ends now.
  process.on("error", () => process.kill("SIGKILL"));
  process.once("exit", () => leave(process));
  return process;
}

/** Keeps a process for the next who asks, for a while. */
function keep(process: ChildProcess): void {
  idle.set(process, setTimeout(() => process.kill(), IDLE).unref());
}

function leave(process: ChildProcess): void {
  clearTimeout(idle.get(process));
  idle.delete(process);
}

function taken(): ChildProcess | undefined {
  const [process] = idle.keys();
  if (process) leave(process);
  return process;
}
