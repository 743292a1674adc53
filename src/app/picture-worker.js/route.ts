/**
 * The worker that reads KTX2 pictures: three's, with the Basis transcoder in it. That one makes functions of text, so it is
 * served by itself, with a policy that allows it there and nowhere else; all that it is ever given are pictures.
 */
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { KTX2Loader } from "three/examples/jsm/loaders/KTX2Loader.js";

export const runtime = "nodejs";
export const dynamic = "force-dynamic";

const TRANSCODER = join(process.cwd(), "node_modules/three/examples/jsm/libs/basis/basis_transcoder.js");
const POLICY = "default-src 'none'; script-src 'unsafe-eval' 'wasm-unsafe-eval'; frame-ancestors 'none'";

/** What three puts together in the browser, see `KTX2Loader.init`. */
interface Parts {
  EngineFormat: unknown;
  EngineType: unknown;
  TranscoderFormat: unknown;
  BasisFormat: unknown;
  BasisWorker: () => void;
}

export async function GET(): Promise<Response> {
  const parts = KTX2Loader as unknown as Parts;
  const constants = (["EngineFormat", "EngineType", "TranscoderFormat", "BasisFormat"] as const).map(
    (name) => `let _${name} = ${JSON.stringify(parts[name])};`,
  );
  const worker = parts.BasisWorker.toString();
  const body = worker.slice(worker.indexOf("{") + 1, worker.lastIndexOf("}"));
  const text = [...constants, await readFile(TRANSCODER, "utf8"), body].join("\n");
  return new Response(text, {
    headers: { "content-type": "text/javascript", "cache-control": "no-cache", "content-security-policy": POLICY },
  });
}
