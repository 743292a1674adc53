/**
 * `POST /api/place`: a project file in, its placements out, as CSV, JSON or GLB by the `Accept` header. `?dressing=NAME`
 * asks for one dressing, `?plain` for GLB with plain nodes. Nothing is kept. Errors are problem+json (RFC 9457).
 */
import { readProject, type FormatName } from "@/core/files";
import { InputError } from "@/core/schema";
import { isForeign } from "./foreign";
import { LimitError, writePlacements } from "@/engine/jobs";

export const runtime = "nodejs";
export const dynamic = "force-dynamic";

const MAX_UPLOAD = 64 * 1024 ** 2;
const MAX_UNPACKED = 256 * 1024 ** 2;
const MAX_PLACEMENTS = 500_000;
const MAX_MILLISECONDS = 20_000;

const MEDIA: readonly (readonly [type: string, format: FormatName])[] = [
  ["text/csv", "csv"],
  ["application/json", "json"],
  ["model/gltf-binary", "glb"],
];

function problem(status: number, title: string, detail: string): Response {
  return new Response(JSON.stringify({ type: "about:blank", title, status, detail }), {
    status,
    headers: { "content-type": "application/problem+json" },
  });
}

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

/**
 * The whole body, or null when it is longer than allowed. Too long a body is still read to its end, within reason, and
 * forgotten: a client that is cut off while it sends never sees the answer.
 */
async function bodyOf(request: Request): Promise<Uint8Array | null> {
  const chunks: Uint8Array[] = [];
  let length = 0;
  const reader = request.body?.getReader();
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    length += part.value.length;
    if (length > 4 * MAX_UPLOAD) {
      await reader?.cancel();
      break;
    }
    if (length <= MAX_UPLOAD) chunks.push(part.value);
  }
  if (length > MAX_UPLOAD) return null;
  const bytes = new Uint8Array(length);
  let at = 0;
  for (const chunk of chunks) {
    bytes.set(chunk, at);
    at += chunk.length;
  }
  return bytes;
}

export async function POST(request: Request): Promise<Response> {
  if (isForeign(request)) {
    const detail = "This Clothesline answers its own pages only; ALLOWED_ORIGINS names others that may ask.";
    return problem(403, "Forbidden", detail);
  }
  const choice = accepted(request.headers.get("accept"));
  if (!choice) {
    await bodyOf(request);
    return problem(406, "Not Acceptable", `Placements come as ${MEDIA.map(([type]) => type).join(", ")}.`);
  }
  const [type, format] = choice;
  const { searchParams } = new URL(request.url);
  const deadline = performance.now() + MAX_MILLISECONDS;
  try {
    const bytes = await bodyOf(request);
    if (!bytes)
      return problem(413, "Content Too Large", `A project file may have up to ${MAX_UPLOAD / 1024 ** 2} MB here.`);
    const { scene, assets } = readProject(bytes, "The project file", MAX_UNPACKED);
    const written = await writePlacements(
      scene,
      assets,
      format === "glb" && searchParams.has("plain") ? "glb-plain" : format,
      {
        dressing: searchParams.get("dressing") ?? undefined,
        maxPlacements: MAX_PLACEMENTS,
        deadline,
      },
    );
    return new Response(written as Uint8Array<ArrayBuffer>, {
      headers: { "content-type": type, "cache-control": "no-store" },
    });
  } catch (error) {
    if (error instanceof LimitError) return problem(413, "Content Too Large", error.message);
    if (error instanceof InputError) return problem(400, "Bad Request", error.message);
    return problem(500, "Internal Server Error", "The scene could not be placed.");
  }
}
