/** Surfaces that move as an artist uses them: movers, pulls, pins that go along, a belt; kept, undone, exported at a moment. */
import { expect, test, type Page } from "./kept";
import { WebIO } from "@gltf-transform/core";
import { unzipSync } from "fflate";
import { raftGlb } from "../src/core/files/testing";
import { violations } from "./axe";
import {
  addProp,
  drawLine,
  editLine,
  enter,
  expectProps,
  exportAs,
  newScene,
  placesIn,
  propCount,
  saved,
  settled,
} from "./table";

const surface = (page: Page, name: string) => page.getByRole("list", { name: "Surfaces" }).getByText(name);

async function makeSurface(page: Page, kind: string): Promise<void> {
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await page.getByRole("button", { name: "Make a surface" }).click();
  await page.getByRole("menuitem", { name: kind }).click();
  await settled(page);
}

async function addMover(page: Page, kind: string): Promise<void> {
  await page.getByRole("button", { name: "+ Let it move…" }).click();
  await page.getByRole("menuitem", { name: kind }).click();
}

/** Goes to a moment by the ruler of a scene of ten seconds. */
async function goTo(page: Page, seconds: number): Promise<void> {
  const { x, y, width } = (await page.getByRole("slider", { name: "Moment" }).boundingBox())!;
  await page.mouse.click(x + 24 + ((width - 48) * seconds) / 10, y + 6);
  await expect
    .poll(async () => Number(await page.getByTestId("time").getAttribute("data-placed")))
    .toBeCloseTo(seconds, 1);
}

test("a surface waves and is pulled; what is pinned to it goes along, slides, is copied, and is never lost", async ({
  page,
}) => {
  await newScene(page);
  await addProp(page);
  await makeSurface(page, "Plane with bumps");
  await enter(page, "Height", "0");
  await expect(page.getByTestId("time")).toHaveCount(0);
  await addMover(page, "Waves");
  await expect(page.getByTestId("time")).toBeVisible();
  await enter(page, "Length", "5");
  // Two numbers are called Height: the mover's comes first.
  await page.getByRole("region", { name: "Movers" }).getByRole("textbox", { name: "Height" }).fill("1");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Left", exact: true }).click();
  await page.getByRole("button", { name: "Within limits" }).click();
  await page.getByRole("button", { name: "By distance" }).click();
  await page.getByRole("button", { name: "More with the distance from" }).click();
  await expect(page.getByText("There is nothing else in the scene to be far from.")).toBeVisible();
  await page.keyboard.press("Escape");
  // Painted with the brush, beside it nothing; wiped, and undone.
  await page.getByRole("button", { name: "Painted" }).click();
  await page.getByRole("button", { name: "Paint…" }).click();
  await expect(page.getByText("Drag over the surface to hold it still there")).toBeVisible();
  await page.mouse.move(660, 380);
  await page.mouse.down();
  await page.mouse.move(700, 390, { steps: 3 });
  await page.mouse.up();
  await expect(page.getByText("1 stroke")).toBeVisible();
  await page.getByRole("button", { name: "Wipe it all" }).click();
  await expect(page.getByText("1 stroke")).toBeHidden();
  await page.keyboard.press("ControlOrMeta+z");
  await expect(page.getByText("1 stroke")).toBeVisible();
  await page.getByRole("button", { name: "Done painting" }).click();
  await page.getByRole("button", { name: "Everywhere alike" }).click();
  expect(await violations(page, { within: "[aria-label=Movers]" })).toEqual([]);

  // A click pins one, Alt and a drag copy it.
  await page.getByRole("radio", { name: "Pin", exact: true }).click();
  await page.mouse.move(690, 400);
  await expect(page.getByTestId("pin-onto")).toContainText("onto Plane with bumps");
  await page.mouse.click(700, 400);
  await expectProps(page, 1);
  await page.mouse.click(560, 380);
  await expectProps(page, 2);
  await expect(page.getByTestId("sentence")).toContainText("pinned to Plane with bumps");
  await page.keyboard.down("Alt");
  await page.mouse.move(560, 374);
  await page.mouse.down();
  await page.mouse.move(600, 420, { steps: 4 });
  await page.mouse.move(640, 440, { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up("Alt");
  await expectProps(page, 3);
  await page.keyboard.press("Escape");
  const first = placesIn((await exportAs(page, "CSV")).bytes);
  await page.keyboard.press("Escape");
  await goTo(page, 1);
  const later = placesIn((await exportAs(page, "CSV")).bytes);
  await page.keyboard.press("Escape");
  expect([...later.keys()]).toEqual([...first.keys()]);
  for (const [key, [x, y, z]] of first) {
    const there = later.get(key)!;
    const far = Math.hypot(there[0] - x, there[1] - y, there[2] - z);
    expect(far).toBeGreaterThan(0.005);
    expect(far).toBeLessThan(1.2);
  }
  await page.keyboard.press("Control+z");
  await expectProps(page, 2);
  await page.keyboard.press("Control+Shift+z");
  await expectProps(page, 3);

  // Pulled by hand in the view: an entry of its own, which can be taken off.
  await surface(page, "Plane with bumps").click();
  await addMover(page, "Pulls");
  await page.getByRole("button", { name: "Pull by hand" }).click();
  await page.mouse.move(760, 440);
  await page.mouse.down();
  await page.mouse.move(760, 400, { steps: 3 });
  await page.mouse.move(760, 340, { steps: 3 });
  await page.mouse.up();
  const pulled = page.getByRole("textbox", { name: "Pull 1 y" });
  await expect.poll(async () => parseFloat(await pulled.inputValue())).toBeGreaterThan(0.2);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Take pull 1 off" }).click();
  await expect(pulled).toHaveCount(0);

  // Kept; and what loses its surface stays where it was, and is told of.
  await saved(page);
  await page.reload();
  await settled(page);
  await expectProps(page, 3);
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await surface(page, "Plane with bumps").click();
  await expect(page.getByRole("button", { name: "Waves", exact: true })).toBeVisible();
  await page
    .getByRole("button", { name: /^Delete surface|^Delete the surface|^Delete/ })
    .first()
    .click();
  await expectProps(page, 3);
  await page.getByTestId("findings").click();
  await expect(page.getByText("The surface of 3 pins is gone.").first()).toBeVisible();
});

test("a belt goes round its line with what stands on it; pins come in from a table, and a wrong one is refused", async ({
  page,
}) => {
  await newScene(page);
  await addProp(page);
  await page.getByRole("radio", { name: "Draw line" }).click();
  await page.getByRole("button", { name: /What to draw/ }).click();
  await page.getByRole("menuitem", { name: "Circle" }).click();
  await page.mouse.click(700, 420);
  await expect.poll(() => propCount(page)).toBeGreaterThan(3);
  await makeSurface(page, "Band");
  await page.getByRole("button", { name: /^Along/ }).click();
  await page.getByRole("menuitem").first().click();
  await page.getByRole("radio", { name: "Pin", exact: true }).click();
  await page.mouse.click(700, 429);
  await page.keyboard.press("Escape");
  await expect(page.getByTestId("sentence")).toContainText("pinned to Band");
  await page.getByRole("button", { name: /^1 Where/ }).click();
  const before = await propCount(page);
  const csv = (text: string) => ({ name: "pins.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await page.getByTestId("pins-csv").setInputFiles(csv("u,v\n0.5,zwei\n"));
  await expect(page.getByText("row 2: v is “zwei”")).toBeVisible();
  await expectProps(page, before);
  await page.getByTestId("pins-csv").setInputFiles(csv("surface,u,v\nBand,1,0.2\nBand,2,0.2\n"));
  await expectProps(page, before + 2);

  await surface(page, "Band").click();
  await enter(page, "Once round in", "10");
  await expect(page.getByTestId("time")).toBeVisible();
  await page.getByRole("button", { name: "Dress this surface" }).click();
  await page.getByRole("menuitem", { name: "Wedge" }).click();
  await expect(page.getByTestId("sentence")).toContainText("over Band");
  await settled(page);
  const start = placesIn((await exportAs(page, "CSV")).bytes);
  await page.keyboard.press("Escape");
  await goTo(page, 5);
  const half = placesIn((await exportAs(page, "CSV")).bytes);
  await page.keyboard.press("Escape");
  expect([...half.keys()]).toEqual([...start.keys()]);
  // Half round, everything that the belt carries is across the middle.
  const carried = [...start].filter(([key, [x, , z]]) => {
    const there = half.get(key)!;
    return Math.hypot(there[0] - x, there[2] - z) > 0.5;
  });
  expect(carried.length).toBeGreaterThan(5);
});

/** A point cache of three pictures in which a mesh of so many vertices lies at one place, 0, 1 and 2 m up. */
function pointCache(vertices: number): Buffer {
  const bytes = Buffer.alloc(32 + 3 * 12 * vertices);
  bytes.write("POINTCACHE2\0", "latin1");
  for (const [at, value] of [[12, 1], [16, vertices], [28, 3]] as const) bytes.writeInt32LE(value, at); // prettier-ignore
  bytes.writeFloatLE(1, 24);
  for (let k = 0; k < 3 * vertices; k++) {
    const at = 32 + 12 * k;
    bytes.writeFloatLE((k % 9) - 4, at);
    bytes.writeFloatLE(0.2 + Math.floor(k / vertices), at + 4);
    bytes.writeFloatLE((Math.floor((k % vertices) / 9) % 9) - 4, at + 8);
  }
  return bytes;
}

test("a surface moves as its file does, by its bones, and replays a simulation that fits it; what is pinned goes along", async ({
  page,
}) => {
  await newScene(page);
  await addProp(page);
  await page.getByRole("radio", { name: "Surfaces" }).click();
  const file = { name: "raft.glb", mimeType: "model/gltf-binary", buffer: Buffer.from(await raftGlb()) };
  await page.getByTestId("surface-files").setInputFiles(file);
  await settled(page);
  // It moves at once, and says by what.
  await expect(page.getByTestId("time")).toBeVisible();
  await surface(page, "Raft").click();
  await page.getByRole("button", { name: "Its file's own", exact: true }).click();
  await expect(page.getByRole("button", { name: "Clip", exact: true })).toHaveText("Tide, 2 s");
  await page.getByRole("radio", { name: "Pin", exact: true }).click();
  await page.mouse.click(700, 400);
  await expectProps(page, 1);
  await page.keyboard.press("Escape");
  const heights = async (): Promise<number[]> => {
    const places = placesIn((await exportAs(page, "CSV")).bytes);
    await page.keyboard.press("Escape");
    return [...places.values()].map(([, y]) => y);
  };
  const [low] = await heights();
  await goTo(page, 1);
  const [high] = await heights();
  expect(high - low).toBeGreaterThan(0.2);
  expect(high - low).toBeLessThan(2);
  await goTo(page, 4);
  expect((await heights())[0]).toBeCloseTo(low, 3);

  // Twice as fast and only once: at its end it stays.
  await surface(page, "Raft").click();
  await page.getByRole("button", { name: "Its file's own", exact: true }).click();
  await enter(page, "Speed", "2");
  await enter(page, "Times", "1");
  await goTo(page, 0.5);
  expect((await heights())[0]).toBeCloseTo(high, 3);
  await goTo(page, 7);
  expect((await heights())[0]).toBeCloseTo(low, 3);
  await surface(page, "Raft").click();
  await page.getByRole("button", { name: "Its file's own", exact: true }).click();
  await page.getByRole("button", { name: /^More for Its file/ }).click();
  await page.getByRole("menuitem", { name: "Take off" }).click();
  await expect(page.getByTestId("time")).toHaveCount(0);

  // A simulation of another mesh is refused; one that fits is replayed.
  const cache = (vertices: number) => ({ name: "sea.pc2", mimeType: "", buffer: pointCache(vertices) });
  await page.getByTestId("replay").setInputFiles(cache(80));
  await expect(page.getByText("“sea.pc2” moves 80 vertices, and “Raft” has 81.")).toBeVisible();
  await page.getByTestId("replay").setInputFiles(cache(81));
  await expect(page.getByRole("button", { name: "Replay", exact: true })).toBeVisible();
  await enter(page, "Pictures a second", "0.5");
  await goTo(page, 2);
  expect((await heights())[0]).toBeCloseTo(low + 1, 3);
  await saved(page);
  await page.reload();
  await settled(page);
  await goTo(page, 3);
  expect((await heights())[0]).toBeCloseTo(low + 1.5, 3);
  // Looked through beside all else: at all frames, whichever is shown.
  await page.getByTestId("findings").click();
  await page.getByRole("button", { name: "Look through the whole time" }).click();
  const over = page.getByRole("region", { name: "Over the whole time" });
  await expect(over.getByRole("status")).toContainText(/Nothing is wrong at any of 241 frames|Each at the moment/);
  await page.keyboard.press("Escape");
  const project = Object.keys(unzipSync((await exportAs(page, "Project file")).bytes));
  expect(project.filter((path) => path.endsWith(".pc2"))).toHaveLength(1);
});

test("a prop whose file has a clip plays it: still, in step, or each its own; the file has the stills that the view has", async ({
  page,
}) => {
  await newScene(page);
  const file = { name: "raft.glb", mimeType: "model/gltf-binary", buffer: Buffer.from(await raftGlb()) };
  await page.getByTestId("prop-files").setInputFiles(file);
  await expect(page.getByText("“Raft” is in the basket.")).toBeVisible();
  await drawLine(page, [
    [420, 520],
    [1000, 420],
  ]);
  await expect.poll(() => propCount(page)).toBeGreaterThan(0);
  await page.getByRole("radio", { name: "Count" }).click();
  await enter(page, "Count", "12");
  await page.getByRole("button", { name: /^6 Variation/ }).click();
  await expect(page.getByTestId("time")).toHaveCount(0);
  await page.getByRole("radio", { name: "Each its own" }).click();
  await expect(page.getByTestId("time")).toBeVisible();
  await expect(page.getByRole("button", { name: "Clip", exact: true })).toHaveText("Tide, 2 s");
  await enter(page, "Different stills", "6");
  const meshes = async (): Promise<number> => {
    const { bytes } = await exportAs(page, "GLB, plain");
    await page.keyboard.press("Escape");
    const document = await new WebIO().readBinary(bytes);
    return document.getRoot().listMeshes().length;
  };
  expect(await meshes()).toBeGreaterThan(3);
  expect(await meshes()).toBeLessThanOrEqual(6);
  await page.getByRole("radio", { name: "In step" }).click();
  expect(await meshes()).toBe(1);
  await page.keyboard.press("Control+z");
  await saved(page);
  await page.reload();
  await settled(page);
  await page.getByRole("button", { name: /^6 Variation/ }).click();
  await expect(page.getByRole("radio", { name: "Each its own" })).toBeChecked();
});

test("a rope is tied to what rides, and a surface rides on another: they go along, can be moved, let go, and lose nothing", async ({
  page,
}) => {
  await newScene(page);
  await addProp(page);
  await makeSurface(page, "Plane with bumps");
  await enter(page, "Height", "0");
  await drawLine(page, [
    [520, 420],
    [760, 380],
  ]);
  await expect.poll(() => propCount(page)).toBeGreaterThan(2);
  await page.keyboard.press("Escape");
  await makeSurface(page, "Box");
  await surface(page, "Box").click();
  await hold(page, "Plane with bumps");
  const place = (axis: string) => page.getByRole("textbox", { name: `Place ${axis}`, exact: true });
  const lies = async (axis: string) => parseFloat(await place(axis).inputValue());
  const before = await lies("y");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await editLine(page, "Line 1");
  await page.getByRole("button", { name: "Select knot 2" }).click();
  await hold(page, "Plane with bumps");
  const end = async () => parseFloat(await page.getByRole("textbox", { name: "Knot 2 y" }).inputValue());
  const knot = await end();

  // What holds them is lifted by 2 m: both go along, and the props along the rope with its end.
  await surface(page, "Plane with bumps").click();
  await place("y").fill(String((await lies("y")) + 2));
  await page.keyboard.press("Enter");
  await surface(page, "Box").click();
  await expect.poll(() => lies("y")).toBeCloseTo(before + 2, 2);
  await place("y").fill("3");
  await page.keyboard.press("Enter");
  await expect.poll(() => lies("y")).toBeCloseTo(3, 3);
  await page.keyboard.press("Escape");
  await editLine(page, "Line 1");
  await expect.poll(end).toBeCloseTo(knot + 2, 2);
  await saved(page);
  await page.reload();
  await settled(page);
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await surface(page, "Box").click();
  await expect.poll(() => lies("y")).toBeCloseTo(3, 3);

  // What holds it is deleted: it stays where it is, and says what it has lost.
  await surface(page, "Plane with bumps").click();
  await page.getByRole("button", { name: /^Delete/ }).first().click(); // prettier-ignore
  await surface(page, "Box").click();
  await expect.poll(() => lies("y")).toBeCloseTo(3, 3);
  await expect(page.getByRole("button", { name: "Held by something that is gone" })).toBeVisible();
  await page.getByTestId("findings").click();
  await expect(page.getByText(/was held by something that is gone/).first()).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+z");
  await surface(page, "Box").click();
  await expect(page.getByRole("button", { name: "Held by Plane with bumps" })).toBeVisible();
  await hold(page, "Nothing: let it go");
  await expect(page.getByRole("button", { name: "Held by nothing" })).toBeVisible();
  await expect.poll(() => lies("y")).toBeCloseTo(3, 3);

  // A loose prop is held by it as well.
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "+ Dress…" }).click();
  await page.getByRole("dialog").getByRole("radio", { name: "Loose" }).click();
  await page.getByRole("dialog").getByRole("button", { name: "Begin" }).click();
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await page.getByRole("button", { name: "Put one down here" }).click();
  await hold(page, "Plane with bumps");
  await settled(page);
  const height = async () => Math.max(...[...placesIn((await exportAs(page, "CSV")).bytes).values()].map(([, y]) => y));
  const loose = await height();
  await surface(page, "Plane with bumps").click();
  await place("y").fill(String((await lies("y")) + 5));
  await page.keyboard.press("Enter");
  await expect.poll(height).toBeGreaterThan(loose + 1.5);
});

async function hold(page: Page, by: string): Promise<void> {
  await page.getByRole("button", { name: /^Held by/ }).click();
  await page.getByRole("menuitem", { name: by }).click();
}

test("a patch lies flat on the sheet: places are moved and added there by hand, and go with it onto another surface; a drawn outline is filled", async ({
  page,
}) => {
  await newScene(page);
  await addProp(page);
  await makeSurface(page, "Plane with bumps");
  await makeSurface(page, "Box");
  await page.getByRole("button", { name: "+ Dress…" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("radio", { name: "Patch" }).click();
  await dialog.getByRole("button", { name: /^Plane/ }).click();
  await dialog.getByRole("button", { name: "Dress", exact: true }).click();
  await page.getByRole("button", { name: /^1 Where/ }).click();
  for (const [label, value] of [["Columns", "3"], ["Rows", "3"], ["Apart across", "1"], ["Apart along", "1"]]) await enter(page, label, value); // prettier-ignore
  await expectProps(page, 9);
  const sheet = page.getByTestId("sheet");
  await expect(sheet).toHaveAttribute("aria-label", /flat layout/);
  const { x, y, width, height } = (await sheet.boundingBox())!;
  const [middleX, middleY] = [x + 22 + (width - 22) / 2, y + 22 + (height - 22) / 2];
  // The one in the middle is dragged aside, and with Alt one more is put down.
  await page.mouse.move(middleX, middleY);
  await page.mouse.down();
  await page.mouse.move(middleX + 60, middleY, { steps: 4 });
  await page.mouse.move(middleX + 160, middleY + 10, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByText("Pegged by hand")).toBeVisible();
  await page.keyboard.down("Alt");
  await page.mouse.click(middleX - 170, middleY - 10);
  await page.keyboard.up("Alt");
  await expectProps(page, 10);
  await settled(page);
  const before = placesIn((await exportAs(page, "CSV")).bytes);
  await sheet.focus();
  await page.keyboard.press("Alt+ArrowRight");
  await settled(page);
  await page.keyboard.press("ControlOrMeta+z");
  await settled(page);
  // Slid over the surface all ten go; on another one they are the same ten.
  await enter(page, "Handle x", "1");
  await expect
    .poll(async () => {
      const after = placesIn((await exportAs(page, "CSV")).bytes);
      return [...before].filter(([key, place]) => Math.hypot(...(after.get(key) ?? [9, 9, 9]).map((v, k) => v - place[k])) > 0.5).length; // prettier-ignore
    })
    .toBe(10);
  await page.getByRole("button", { name: /^Another surface than/ }).click();
  await page.getByRole("menuitem", { name: /Box/ }).click();
  await settled(page);
  expect([...placesIn((await exportAs(page, "CSV")).bytes).keys()].sort()).toEqual([...before.keys()].sort());
  await saved(page);
  await page.reload();
  await settled(page);
  await expectProps(page, 10);
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await page.getByRole("radio", { name: "Outlines", exact: true }).click();
  await expect(page.getByText("Choose or draw a closed line")).toBeVisible();
  await page.getByRole("button", { name: "Draw outline" }).click();
  const [cx, cy] = [700, 330];
  for (const [dx, dy] of [[-70, -20], [60, -30], [80, 60], [-60, 70]]) await page.mouse.click(cx + dx, cy + dy); // prettier-ignore
  await page.keyboard.press("Enter");
  await expect(page.getByText("Area 1")).toBeVisible();
  await expect.poll(() => propCount(page)).toBeGreaterThan(1);
});
