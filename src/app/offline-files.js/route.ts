/** What the offline worker keeps: the files that the pages are made of, and the build that they belong to. */
import { readFile, readdir } from "node:fs/promises";
import { join } from "node:path";

export const runtime = "nodejs";
export const dynamic = "force-dynamic";

/** While developing there is no build to keep. */
const BUILD = join(process.cwd(), ".next");

export async function GET(): Promise<Response> {
  const version = process.env.NODE_ENV === "production" ? await readFile(join(BUILD, "BUILD_ID"), "utf8") : "none";
  const files = version === "none" ? [] : await filesBelow(join(BUILD, "static"));
  const kept = { version: version.trim(), files: files.map((file) => `/_next/static/${file}`).sort() };
  return new Response(`self.OFFLINE = ${JSON.stringify(kept)};\n`, {
    headers: { "content-type": "text/javascript", "cache-control": "no-cache" },
  });
}

async function filesBelow(folder: string): Promise<string[]> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  return entries
    .filter((entry) => entry.isFile() && !entry.name.endsWith(".map"))
    .map(({ parentPath, name }) =>
      join(parentPath, name)
        .slice(folder.length + 1)
        .replaceAll("\\", "/"),
    );
}
