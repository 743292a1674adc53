/** The ways in from outside: the command line and the route handler. No browser is needed for either. */
import { expect, test } from "@playwright/test";
import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { request as httpRequest } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { unzipSync, zipSync } from "fflate";
import { bundleCommandLine } from "../scripts/ensure.mjs";
import { placementsInGlb } from "../src/core/files/testing";

let script: string;
const cli = (...args: string[]) => spawnSync(process.execPath, [script, ...args], { encoding: "utf8", maxBuffer: 1e9 });

let folder: string;
test.beforeAll(() => {
  script = bundleCommandLine();
  folder = mkdtempSync(join(tmpdir(), "clothesline-"));
  expect(cli("demo", "--out", folder).status).toBe(0);
});
test.afterAll(() => {
  rmSync(folder, { recursive: true });
  rmSync(script);
});

/** The demo scene as a project file. */
function projectFile(): Buffer {
  const scene = readFileSync(join(folder, "scene.json"));
  const { props, surfaces } = JSON.parse(scene.toString()) as Record<"props" | "surfaces", { asset: string }[]>;
  const files: Record<string, Uint8Array> = { "scene.json": scene };
  // Made surfaces have no file.
  for (const { asset } of [...props, ...surfaces].filter((one) => one.asset !== null))
    files[`assets/${asset}.glb`] = readFileSync(join(folder, `assets/${asset}.glb`));
  return Buffer.from(zipSync(files));
}

test("what is wrong is said on standard error, with exit code 2", () => {
  expect(cli("place", "nowhere")).toMatchObject({
    status: 2,
    stdout: "",
    stderr: expect.stringMatching(/there is no file “nowhere”/),
  });
});

test("POST /api/place answers as the command line does, and tells what is wrong as problem+json", async ({
  request,
}) => {
  const data = projectFile();
  const csv = await request.post("/api/place", { data, headers: { accept: "text/csv" } });
  expect(csv.status()).toBe(200);
  expect(await csv.text()).toBe(cli("place", folder).stdout);
  const glb = await request.post("/api/place?dressing=Bollards&plain", {
    data,
    headers: { accept: "model/gltf-binary" },
  });
  expect(await placementsInGlb(new Uint8Array(await glb.body()))).toHaveLength(20);

  // Frames that two processes have worked out are, put together, those that one has.
  const frames = async (which: string) =>
    (
      await request.post(`/api/place?dressing=Cable+baskets&${which}`, { data, headers: { accept: "text/csv" } })
    ).text();
  const both = cli("place", folder, "--dressing", "Cable baskets", "--frames", "71..72").stdout;
  expect(await frames("frames=71..72")).toBe(both);
  const [one, other] = [
    await frames("frame=71"),
    cli("place", folder, "--dressing", "Cable baskets", "--frame", "72").stdout,
  ];
  const rows = (csv: string, frame: number) =>
    csv
      .trim()
      .split("\r\n")
      .slice(1)
      .map((row) => `${frame},${row}`);
  expect([...rows(one, 71), ...rows(other, 72)]).toEqual(both.trim().split("\r\n").slice(1));
  expect(rows(one, 0)).not.toEqual(rows(other, 0));
  for (const bad of ["frame=x", "frame=9999999", "frames=3"])
    expect(JSON.parse(await frames(bad))).toMatchObject({ status: 400, detail: expect.stringMatching(/frame/) });

  const wrong: [Buffer, string, number, RegExp][] = [
    [Buffer.from("hello"), "text/csv", 400, /is not a project file/],
    [data, "image/png", 406, /text\/csv/],
    [manyPlacements(data), "text/csv", 413, /more than 500,000 placements/],
  ];
  for (const [body, accept, status, detail] of wrong) {
    const response = await request.post("/api/place", { data: body, headers: { accept } });
    expect(response.status()).toBe(status);
    expect(response.headers()["content-type"]).toBe("application/problem+json");
    expect((await response.json()).detail).toMatch(detail);
  }
});

test("however much is asked, pages are answered, what finds no place is told so, and who leaves is worked for no more", async ({
  request,
  baseURL,
}) => {
  const url = `${baseURL}/api/place`;
  const refused = await request.post(url, { data: heavyProject(projectFile(), 2000) });
  expect([refused.status(), (await refused.json()).detail]).toEqual([
    400,
    expect.stringMatching(/may come to 8,000,000/),
  ]);

  const left = new AbortController();
  const body = new Uint8Array(heavyProject(projectFile(), 100));
  const asked = Array.from({ length: 20 }, () =>
    fetch(url, { method: "POST", body, signal: left.signal }).then(
      ({ status, headers }) => `${status} ${headers.get("retry-after") ?? ""}`,
      (error: Error) => error.name,
    ),
  );
  const waited: number[] = [];
  for (let i = 0; i < 20; i++) {
    const start = performance.now();
    expect((await fetch(`${baseURL}/scene/x`)).status).toBe(200);
    waited.push(performance.now() - start);
  }
  // Far more than it takes; with placing on the server's own thread this was half a minute.
  expect(Math.max(...waited)).toBeLessThan(5000);
  left.abort();
  const answers = await Promise.all(asked);
  expect(answers.filter((answer) => answer === "503 5").length).toBeGreaterThan(5);
  expect(answers).toContain("AbortError");
  // What nobody waits for any more holds nobody up: that would be up to 20 s for each of those that had a place.
  const after = await request.post(`${url}?dressing=Bollards`, {
    data: projectFile(),
    headers: { accept: "text/csv" },
    timeout: 45_000,
  });
  expect(after.status()).toBe(200);
});

test("what says that it is too long is refused before it is sent", async ({ baseURL }) => {
  const status = await new Promise((resolve, reject) => {
    const headers = { "content-length": 65 * 1024 ** 2 };
    const asking = httpRequest(`${baseURL}/api/place`, { method: "POST", headers }, (answer) => {
      resolve(answer.statusCode);
      asking.destroy();
    });
    asking.on("error", reject);
    asking.flushHeaders();
  });
  expect(status).toBe(413);
});

/** The project with a large surface through 400 lines, many times over which things are spread and kept clear of each other. */
function heavyProject(project: Buffer, along: number): Buffer {
  const files = unzipSync(project);
  const scene = JSON.parse(new TextDecoder().decode(files["scene.json"]));
  const ids = Array.from({ length: 400 }, (_, i) => `k${i}`);
  const knots = (z: number) => [0, 30, 60].map((x) => ({ position: [x, x === 30 ? z % 3 : 0, z] }));
  scene.lines.push(...ids.map((id, i) => ({ id, number: 1000 + i, name: "K", kind: "smooth", knots: knots(i) })));
  scene.surfaces.push({ id: "g", name: "G", made: { kind: "loft", lines: ids, along, between: 95 } });
  const dressing = { ...scene.dressings[0], where: { kind: "over", surfaces: ["g"] }, pegs: {} };
  scene.dressings = ids.slice(0, 30).map((id, i) => ({
    ...dressing,
    id,
    name: id,
    spacing: { pattern: "even", distance: 0.6 + i * 0.001 },
    fit: { drop: "normal", clear: "mesh" },
  }));
  return Buffer.from(zipSync({ ...files, "scene.json": new TextEncoder().encode(JSON.stringify(scene)) }));
}

/** The project with a dressing that asks for far too much. */
function manyPlacements(project: Buffer): Buffer {
  const files = unzipSync(project);
  const scene = JSON.parse(new TextDecoder().decode(files["scene.json"]));
  scene.dressings[0].spacing = { distance: 0.0001 };
  scene.dressings[0].where.lines = scene.lines.map((line: { id: string }) => line.id);
  return Buffer.from(zipSync({ ...files, "scene.json": new TextEncoder().encode(JSON.stringify(scene)) }));
}

test("every answer says what may run and where it may be shown, and others' pages are not answered", async ({
  request,
  baseURL,
}) => {
  for (const path of ["/", "/scene/x", "/nowhere", "/%E0%A4%A", "/scene/%", "/offline.js", "/api/place"]) {
    const { headers, status } = await request
      .get(path)
      .then((answer) => ({ headers: answer.headers(), status: answer.status() }));
    const policy = headers["content-security-policy"];
    expect([path, status < 500, policy]).toEqual([
      path,
      true,
      expect.stringMatching(/^default-src 'self'|^default-src 'none'/),
    ]);
    expect(policy).not.toContain("'unsafe-eval'");
    expect(policy).toContain("frame-ancestors 'none'");
    expect(headers).toMatchObject({
      "cross-origin-embedder-policy": "require-corp",
      "cross-origin-opener-policy": "same-origin",
      "cross-origin-resource-policy": "same-origin",
    });
    expect(headers["permissions-policy"]).toContain("camera=()");
    expect(headers["x-powered-by"]).toBeUndefined();
  }
  const asked = (headers: Record<string, string>) =>
    request.post("/api/place", { data: "x", headers }).then((answer) => answer.status());
  expect(await asked({ origin: "https://elsewhere.example" })).toBe(403);
  expect(await asked({ origin: baseURL!, "sec-fetch-site": "cross-site" })).toBe(403);
  // As long as more is asked beside it than can be answered, it is to come again.
  await expect.poll(() => asked({ origin: baseURL! })).toBe(400);
  await expect.poll(() => asked({})).toBe(400);
});
