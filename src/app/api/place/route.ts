/**
 * `POST /api/place`: a project file in, its placements out, as CSV, JSON or GLB by the `Accept` header. `?dressing=NAME`
 * asks for one dressing, `?frame=N` for one frame, `?frames=A..B` for several in one CSV or JSON or in one animated GLB,
 * `?plain` for GLB with plain nodes, `?nested` for assemblies as nodes among these, `?surfaces` and `?lines` for these in a GLB too. Nothing is kept. Errors are problem+json (RFC 9457).
 */
import { createWriteStream } from "node:fs";
import { mkdtemp, open, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { FormatName } from "@/core/files";
import { enter, MAX_UPLOAD, placeFile } from "@/engine/placing";
import { isForeign } from "./foreign";

export const runtime = "nodejs";
export const dynamic = "force-dynamic";

/** The whole of a file has to be here after so many milliseconds. */
const MAX_UPLOADING = 30_000;
/** Who finds no place is told to come again after so many seconds. */
const AGAIN_AFTER = 5;

const MEDIA: readonly (readonly [type: string, format: FormatName])[] = [
  ["text/csv", "csv"],
  ["application/json", "json"],
  ["model/gltf-binary", "glb"],
];

const TITLES = {
  400: "Bad Request",
  403: "Forbidden",
  406: "Not Acceptable",
  408: "Request Timeout",
  413: "Content Too Large",
  500: "Internal Server Error",
  503: "Service Unavailable",
} as const;

function problem(status: keyof typeof TITLES, detail: string, more: Record<string, string> = {}): Response {
  return new Response(JSON.stringify({ type: "about:blank", title: TITLES[status], status, detail }), {
    status,
    headers: { "content-type": "application/problem+json", ...more },
  });
}

const tooLong = () => problem(413, `A project file may have up to ${MAX_UPLOAD / 1024 ** 2} MB here.`);

/** The first of our media types that the header accepts, by its weights; null where there is none. */
function accepted(header: string | null): readonly [type: string, format: FormatName] | null {
  const ranges = (header ?? "*/*").split(",").map((part) => {
    const [type, ...parameters] = part.split(";").map((text) => text.trim().toLowerCase());
    const weight = parameters.find((parameter) => parameter.startsWith("q="));
    return { type, q: weight ? Number(weight.slice(2)) || 0 : 1 };
  });
  ranges.sort((a, b) => b.q - a.q);
  for (const { type, q } of ranges) {
    const found = MEDIA.find(([media]) => type === media || type === "*/*" || type === `${media.split("/")[0]}/*`);
    if (q > 0 && found) return found;
  }
  return null;
}

class TooLong extends Error {}

/** Writes the body into a file as it comes. @throws TooLong when it is longer than allowed, or what `signal` says */
async function receive({ body }: Request, path: string, signal: AbortSignal): Promise<void> {
  let length = 0;
  async function* counted(parts: AsyncIterable<Uint8Array>) {
    for await (const part of parts) {
      length += part.length;
      if (length > MAX_UPLOAD) throw new TooLong();
      yield part;
    }
  }
  const parts = body ? Readable.fromWeb(body as Parameters<typeof Readable.fromWeb>[0]) : Readable.from([]);
  await pipeline(parts, counted, createWriteStream(path), { signal });
}

export async function POST(request: Request): Promise<Response> {
  if (isForeign(request))
    return problem(403, "This Clothesline answers its own pages only; ALLOWED_ORIGINS names others that may ask.");
  const choice = accepted(request.headers.get("accept"));
  if (!choice) return problem(406, `Placements come as ${MEDIA.map(([type]) => type).join(", ")}.`);
  if (Number(request.headers.get("content-length")) > MAX_UPLOAD) return tooLong();
  const leave = enter();
  if (!leave)
    return problem(503, "As much as this server can place at once is being placed. Ask again in a moment.", {
      "retry-after": String(AGAIN_AFTER),
    });
  const folder = await mkdtemp(join(tmpdir(), "clothesline-"));
  try {
    return await answer(request, choice, folder);
  } catch {
    return problem(500, "The scene could not be placed.");
  } finally {
    leave();
    // What is being sent is open, and stays to be read until it is closed.
    void rm(folder, { recursive: true, force: true });
  }
}

async function answer(
  request: Request,
  [type, format]: readonly [type: string, format: FormatName],
  folder: string,
): Promise<Response> {
  const [from, to] = [join(folder, "project.zip"), join(folder, "placements")];
  const late = AbortSignal.timeout(MAX_UPLOADING);
  try {
    await receive(request, from, AbortSignal.any([late, request.signal]));
  } catch (error) {
    if (error instanceof TooLong) return tooLong();
    if (late.aborted) return problem(408, `A project file has to be here within ${MAX_UPLOADING / 1000} seconds.`);
    throw error;
  }
  const { searchParams } = new URL(request.url);
  const plain = format === "glb" && searchParams.has("plain");
  const dressing = searchParams.get("dressing") ?? undefined;
  const frame = /^(\d{1,9})$/.exec(searchParams.get("frame") ?? "");
  const frames = /^(\d{1,9})\.\.(\d{1,9})$/.exec(searchParams.get("frames") ?? "");
  if ((searchParams.has("frame") && !frame) || (searchParams.has("frames") && !frames))
    return problem(400, "A frame is named as frame=12, several as frames=0..240.");
  const job = {
    ...{ from, to, format: plain ? ("glb-plain" as const) : format, dressing },
    ...(frame && { frame: Number(frame[1]) }),
    ...(frames && { frames: [Number(frames[1]), Number(frames[2])] as const }),
    surfaces: searchParams.has("surfaces"),
    nested: searchParams.has("nested"),
    lines: searchParams.has("lines"),
  };
  const { status, detail } = await placeFile(job, request.signal);
  if (detail !== undefined) return problem(status as keyof typeof TITLES, detail);
  const file = await open(to);
  const { size } = await file.stat();
  return new Response(Readable.toWeb(file.createReadStream()) as ReadableStream, {
    headers: { "content-type": type, "content-length": String(size), "cache-control": "no-store" },
  });
}
