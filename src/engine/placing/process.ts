/**
 * *The process that places what others ask for.* It may be ended at any moment, so it keeps nothing: a file in, a file out.
 * Bundled by itself (`scripts/ensure.mjs`), since Node runs it without Next.
 */
import { appendFileSync, readFileSync, writeFileSync } from "node:fs";
import { setPriority } from "node:os";
import { Worker } from "node:worker_threads";
import { FORMATS, readProject } from "@/core/files";
import { InputError } from "@/core/schema";
import { LimitError, writeAnimation, writeFrames, writePlacements } from "../jobs";
import { MAX_MEMORY, MAX_PLACEMENTS, MAX_UNPACKED, type PlacingJob, type PlacingOutcome } from "./job";

/** Pages are answered first, however much is to be placed. */
const LOW_PRIORITY = 10;
setPriority(LOW_PRIORITY);

// Arrays of numbers lie outside the heap that Node can limit, so somebody beside it looks at what the process takes.
new Worker(
  `setInterval(() => { if (process.memoryUsage.rss() > ${MAX_MEMORY}) process.kill(process.pid, "SIGKILL"); }, 50);`,
  { eval: true },
).unref();

async function place({
  from,
  to,
  format,
  dressing,
  frame,
  frames,
  surfaces,
  nested,
  lines,
}: PlacingJob): Promise<PlacingOutcome> {
  try {
    const { scene, assets } = readProject(readFileSync(from), "The project file", MAX_UNPACKED);
    const options = { dressing, surfaces, nested, lines, maxPlacements: MAX_PLACEMENTS };
    if (frames && FORMATS[format].holdsScenery) {
      writeFileSync(to, await writeAnimation(scene, assets, format, frames, options));
    } else if (frames) {
      for await (const piece of writeFrames(scene, assets, format, frames, options)) appendFileSync(to, piece);
    } else writeFileSync(to, await writePlacements(scene, assets, format, { ...options, frame }));
    return { status: 200 };
  } catch (error) {
    if (error instanceof LimitError) return { status: 413, detail: error.message };
    if (error instanceof InputError) return { status: 400, detail: error.message };
    return { status: 500, detail: "The scene could not be placed." };
  }
}

process.on("message", (job: PlacingJob) => void place(job).then((outcome) => process.send!(outcome)));
// Nobody is left to ask.
process.on("disconnect", () => process.exit());
