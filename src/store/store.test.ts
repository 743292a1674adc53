import { localStorageStand } from "./testing";
import Dexie from "dexie";
import fc from "fast-check";
import { changeBetween, emptyScene, surfaceSchema, type Scene } from "@/core/scene";
import { harbourScene, HASHES } from "@/core/scene/testing";
import { lineSchema } from "@/core/line";
import { db } from "./db";
import { Keeper, type Kept } from "./keeper";
import {
  addScene,
  assetBytes,
  assetsFor,
  deleteScene,
  duplicateScene,
  listScenes,
  loadScene,
  putPicture,
  renameScene,
} from "./scenes";
import { useSceneStore } from "./scene-store";

const store = () => useSceneStore.getState();
const bytes = (...numbers: number[]) => Uint8Array.from(numbers);
const assets = new Map([
  [HASHES.buoy, bytes(1, 2)],
  [HASHES.oar, bytes(3)],
]);
/** The page is loaded anew: nothing is left in memory. */
function reload(id: string): Promise<unknown> {
  useSceneStore.setState({ id: null, save: { kind: "saved", at: 0 } });
  return store().open(id);
}
const rename = (name: string) => store().change("Rename", (scene: { name: string }) => void (scene.name = name));
const stored = async (id: string): Promise<Scene> => (await loadScene(id))!.scene;

beforeEach(async () => {
  jest.useRealTimers();
  await store().flush();
  await Promise.all(db.tables.map((table) => table.clear()));
  useSceneStore.setState({ id: null, save: { kind: "saved", at: 0 } });
});

// What rests is still written as a whole.
afterAll(() => new Promise((resolve) => setTimeout(resolve, 1700)));

test("what is amended is saved and no step to be undone; after the first edit nothing is", async () => {
  const id = await addScene(harbourScene(), assets);
  await store().open(id);
  const amend = (name: string) => store().amend((scene) => void (scene.name = name));
  amend("Brought up");
  await store().flush();
  expect([(await stored(id)).name, store().history.past.length]).toEqual(["Brought up", 0]);
  rename("Mine");
  amend("Again");
  expect(store().history.scene.name).toBe("Mine");
  store().undo();
  amend("And again");
  expect(store().history.scene.name).toBe("Brought up");
});

test("a drag goes on while the scene plays, and is one keyframe at the moment at which it began", async () => {
  const id = await addScene(harbourScene(), assets);
  await store().open(id);
  const keyframes = [0, 4].map((at) => ({ at, value: at, go: "straight" as const }));
  store().change("Move", ({ dressings }) => {
    dressings[0].courses["fit/up"] = { keyframes, before: "hold", after: "hold" };
  });
  store().seek(1);
  expect([store().shown.dressings[0].fit.up, store().history.scene.dressings[0].fit.up]).toEqual([1, 0]);
  store().beginDrag("Up");
  for (const moment of [1.5, 2, 2.5]) {
    store().drag(({ dressings }) => void (dressings[0].fit.up = 10));
    store().seek(moment);
  }
  store().endDrag();
  const course = () =>
    store().history.scene.dressings[0].courses["fit/up"].keyframes.map(({ at, value }) => [at, value]);
  expect(course()).toEqual([[0, 0], [1, 10], [4, 4]]); // prettier-ignore
  expect(store().shown.dressings[0].fit.up).toBeCloseTo(7, 9);
  store().undo();
  expect(course()).toEqual([[0, 0], [4, 4]]); // prettier-ignore
  expect(store().computed.dressings[0].fit.up).toBe(2.5);
  await store().flush();
  expect((await stored(id)).dressings[0].courses["fit/up"].keyframes).toEqual(keyframes);
});

test("what would be too much to open again is not made, and why is told; the rest goes on", async () => {
  const id = await addScene(harbourScene(), assets);
  await store().open(id);
  const { lines } = store().history.scene;
  store().change("Loft", (scene) => {
    const made = { kind: "loft", lines: Array(500).fill(lines[0].id), along: 2000, between: 200 };
    scene.surfaces.push(surfaceSchema.parse({ id: "huge", name: "Huge", made }) as never);
  });
  expect(store().refused?.reason).toBe("made surfaces would come to 399,200,000 triangles, and may come to 8,000,000");
  store().change("Coils", (scene) => {
    const coil = { kind: "coil", name: "Coil", turns: 2000, knots: [{ position: [0, 0, 0] }] };
    for (let i = 0; i < 126; i++)
      scene.lines.push(lineSchema.parse({ ...coil, id: `c${i}`, number: 100 + i }) as never);
  });
  expect(store().refused?.reason).toMatch(/^lines would come to 4,032,\d{3} points/);
  rename("Still here");
  await store().flush();
  const { lines: kept, surfaces, name } = await stored(id);
  expect([kept.length, surfaces.some((one) => one.id === "huge"), name]).toEqual([lines.length, false, "Still here"]);
});

describe("scenes", () => {
  test("come back as they were put, under a name of their own, the latest first", async () => {
    const first = await addScene(harbourScene(), assets);
    const second = await addScene(harbourScene(), assets);
    await db.heads.update(first, { modified: 5 });
    expect(await stored(first)).toEqual(harbourScene());
    expect((await listScenes()).map(({ id, name }) => [id, name])).toEqual([
      [second, "Harbour 2"],
      [first, "Harbour"],
    ]);
    expect(await assetsFor(harbourScene())).toEqual(assets);
  });

  test("a copy has the same content and picture and its own name; renaming it leaves the other alone", async () => {
    const original = await addScene(harbourScene(), assets);
    await putPicture(original, "data:picture");
    const copy = await duplicateScene(original);
    await renameScene(copy, "Spring");
    expect({ ...(await stored(copy)), name: "Harbour" }).toEqual(harbourScene());
    expect((await listScenes()).map(({ name, picture }) => [name, picture])).toEqual(
      expect.arrayContaining([
        ["Spring", "data:picture"],
        ["Harbour", "data:picture"],
      ]),
    );
  });

  test("deleting takes only assets that nobody else names, and can be taken back whole", async () => {
    const doomed = await addScene(harbourScene(), assets);
    await putPicture(doomed, "data:picture");
    const other = harbourScene();
    other.props.pop();
    other.dressings.pop();
    await addScene(other, assets);
    const restore = await deleteScene(doomed);
    expect(await loadScene(doomed)).toBeUndefined();
    expect(await db.assets.toCollection().primaryKeys()).toEqual([HASHES.buoy]);
    await restore();
    expect(await stored(doomed)).toEqual(harbourScene());
    expect(await assetsFor(harbourScene())).toEqual(assets);
    expect((await listScenes()).find(({ id }) => id === doomed)!.picture).toBe("data:picture");
  });

  test("taking a deletion back leaves alone what has come to be there again", async () => {
    const id = await addScene(harbourScene(), assets);
    const restore = await deleteScene(id);
    await addScene({ ...harbourScene(), name: "Kept by another tab" }, assets, id);
    await restore();
    expect((await stored(id)).name).toBe("Kept by another tab");
    expect(await assetsFor(harbourScene())).toEqual(assets);
  });
});

describe("the scene on the table", () => {
  async function opened(): Promise<string> {
    const id = await addScene(emptyScene("Quay"), new Map());
    expect(await store().open(id)).toBe("opened");
    return id;
  }

  test("every change is kept by itself, as what differs, as soon as it is made, and says so", async () => {
    const id = await addScene(harbourScene(), assets);
    await store().open(id);
    rename("Pier");
    expect(store().save.kind).toBe("unsaved");
    await store().flush();
    expect(store().save.kind).toBe("saved");
    expect((await stored(id)).name).toBe("Pier");
    const edits = await db.edits.toArray();
    expect(edits.map(({ change }) => [Object.keys(change.lists), change.rest])).toEqual([[[], { name: "Pier" }]]);
  });

  test("when it rests the scene is written as a whole, and the edits go", async () => {
    const id = await opened();
    rename("Pier");
    await store().flush();
    await new Promise((resolve) => setTimeout(resolve, 1700));
    expect(await db.edits.count()).toBe(0);
    expect((await db.scenes.get(id))!.scene.name).toBe("Pier");
    rename("Quay");
    await store().flush();
    expect((await stored(id)).name).toBe("Quay");
  });

  test("whatever is done, what is read back is what was on the table: edits, undo, drags, rests, reopening", async () => {
    const acts = fc.array(fc.integer({ min: 0, max: 6 }), { minLength: 1, maxLength: 12 });
    await fc.assert(
      fc.asyncProperty(acts, async (acts) => {
        const id = await addScene(harbourScene(), assets);
        await store().open(id);
        for (const [k, act] of acts.entries()) {
          if (act === 0) rename(`Name ${k}`);
          else if (act === 1) store().change("Slide", (scene) => void (scene.dressings[0].spacing.slide = k));
          else if (act === 2) store().change("Drop", (scene) => void scene.lines.splice(0, 1));
          else if (act === 3) store().undo();
          else if (act === 4) {
            store().beginDrag("Drag");
            store().drag((scene) => void (scene.dressings[0].fit.up = k));
            if (k % 2) store().cancelDrag();
            else store().endDrag();
          } else if (act === 5) await new Keeper().open(id).then(() => store().flush());
          else {
            await store().flush();
            await store().open(id);
          }
        }
        await store().flush();
        expect(await stored(id)).toEqual(store().history.scene);
      }),
      { numRuns: 40 },
    );
  });

  test("what another tab kept is not overwritten: ours is put aside, theirs can be taken, and keeping goes on", async () => {
    const id = await opened();
    await renameScene(id, "Theirs");
    rename("Mine");
    await store().flush();
    expect(store().save.kind).toBe("conflict");
    expect((await stored(id)).name).toBe("Theirs");
    rename("Mine, and more");
    await new Promise((resolve) => setTimeout(resolve, 400));
    // The tab is reloaded without an answer to the question.
    useSceneStore.setState({ id: null, save: { kind: "saved", at: 0 } });
    await store().open(id);
    expect([store().history.scene.name, store().aside!.scene.name]).toEqual(["Theirs", "Mine, and more"]);
    await store().dropAside();
    rename("Ours");
    await store().flush();
    expect((await stored(id)).name).toBe("Ours");
    await renameScene(id, "Theirs again");
    rename("Mine again");
    await store().flush();
    // Kept as a scene of its own: nothing stays aside, also when the table is left.
    await store().dropAside();
    store().leave();
    await new Promise((resolve) => setTimeout(resolve, 400));
    await reload(id);
    expect(store().aside).toBeNull();
    await renameScene(id, "Theirs again");
    rename("Mine again");
    await store().flush();
    await store().takeTheirs();
    expect([store().history.scene.name, store().aside, store().save.kind]).toEqual(["Theirs again", null, "saved"]);
    // Who has changed nothing since is not asked.
    await renameScene(id, "Theirs once more");
    await store().verify();
    const { history, save, renewed } = store();
    expect([history.scene.name, save.kind, renewed]).toEqual(["Theirs once more", "saved", 1]);
    rename("Ours after that");
    await store().flush();
    expect((await stored(id)).name).toBe("Ours after that");
  });

  test("of two that write to one scene the second is told, and nothing of the first is lost", async () => {
    const id = await addScene(harbourScene(), assets);
    const [one, two] = [new Keeper(), new Keeper()];
    const { scene, revision } = (await one.open(id))!;
    await two.open(id);
    const named = (name: string) => changeBetween(scene, { ...scene, name } as Scene, revision + 1);
    expect(await Promise.all([one.write(named("One")), two.write(named("Two"))])).toMatchObject([
      { kind: "kept", revision: revision + 1 },
      { kind: "conflict" },
    ]);
    expect((await stored(id)).name).toBe("One");
  });

  test("deleted elsewhere, or with the browser's storage, it says so instead of “saved”, and can be kept again with its files", async () => {
    const id = await addScene(harbourScene(), assets);
    await store().open(id);
    for (const hash of assets.keys()) await assetBytes(hash);
    await deleteScene(id);
    await store().verify();
    expect(store().save.kind).toBe("gone");
    rename("Kept after all");
    await store().keepAgain();
    expect(store().save.kind).toBe("saved");
    expect((await stored(id)).name).toBe("Kept after all");
    await Promise.all(db.tables.map((table) => table.clear()));
    rename("Gone once more");
    await store().flush();
    expect(store().save.kind).toBe("gone");
    await store().keepAgain();
    expect([await db.assets.count(), (await stored(id)).name]).toEqual([2, "Gone once more"]);
  });

  test("a keeper that was started again gets the scene as it is on the table, and keeping goes on", async () => {
    const id = await addScene(harbourScene(), assets);
    await store().open(id);
    rename("Before");
    await store().flush();
    const write = jest.spyOn(Keeper.prototype, "write").mockResolvedValueOnce({ kind: "closed" });
    rename("While it was away");
    await store().flush();
    write.mockRestore();
    expect([store().save.kind, (await stored(id)).name]).toEqual(["saved", "While it was away"]);
    rename("After");
    await store().flush();
    expect([store().save.kind, (await stored(id)).name]).toEqual(["saved", "After"]);
  });

  test("a file that has vanished is written again from memory before anything counts as saved", async () => {
    const id = await addScene(harbourScene(), assets);
    await store().open(id);
    await assetBytes(HASHES.buoy);
    await db.assets.delete(HASHES.buoy);
    rename("Pier");
    await store().flush();
    expect([store().save.kind, await db.assets.count()]).toEqual(["saved", 2]);
  });

  test("what is not known to be kept when the page goes away is there again, and stays put down until it is kept", async () => {
    const id = await opened();
    const answers: ((kept: Kept) => void)[] = [];
    const write = jest
      .spyOn(Keeper.prototype, "write")
      .mockImplementation(() => new Promise((resolve) => void answers.push(resolve)));
    // Gone again and again before anything could be written.
    rename("Unsaved");
    store().leave();
    for (let again = 0; again < 2; again++) {
      const opening = reload(id);
      for (const answer of answers.splice(0)) answer({ kind: "gone" });
      await opening;
      expect(store().history.scene.name).toBe("Unsaved");
    }
    for (const answer of answers) answer({ kind: "gone" });
    write.mockRestore();
    expect((await stored(id)).name).toBe("Quay");
    await reload(id);
    await store().flush();
    expect((await stored(id)).name).toBe("Unsaved");
    expect(localStorageStand.length).toBe(0);
  });

  test("what was put down is left aside when it reached the database after all", async () => {
    const id = await opened();
    rename("Kept in time");
    store().leave();
    await store().flush();
    rename("And more");
    await store().flush();
    await reload(id);
    expect(store().history.scene.name).toBe("And more");
    expect(localStorageStand.length).toBe(0);
  });

  test("a failing database is told in words, nothing of the scene is lost, and it is tried again by itself", async () => {
    const id = await opened();
    const full = Object.assign(new Error("raw"), { name: "QuotaExceededError" });
    const save = jest.spyOn(db, "transaction").mockRejectedValue(full);
    rename("Kept");
    await store().flush();
    expect(store().save).toEqual({ kind: "failed", reason: "the browser's storage is full" });
    expect(store().history.scene.name).toBe("Kept");
    save.mockRestore();
    // By itself: whenever that is, on a machine that is slow.
    for (let tries = 0; tries < 150 && store().save.kind !== "saved"; tries++)
      await new Promise((resolve) => setTimeout(resolve, 200));
    expect([store().save.kind, (await stored(id)).name]).toEqual(["saved", "Kept"]);
  });

  test("a scene that is not there is missing", async () => {
    expect(await store().open("nobody")).toBe("missing");
  });
});

test("what version 1 of the database holds is there in version 2", async () => {
  db.close();
  await Dexie.delete("clothesline");
  const old = new Dexie("clothesline");
  old.version(1).stores({ scenes: "id, modified", assets: "hash", pictures: "id" });
  await old
    .table("scenes")
    .put({ id: "s", name: "Old", modified: 7, revision: 3, scene: { ...harbourScene(), name: "Old" } });
  old.close();
  await db.open();
  expect(await listScenes()).toEqual([{ id: "s", name: "Old", modified: 7, picture: null }]);
  await store().open("s");
  rename("New");
  await store().flush();
  expect((await stored("s")).name).toBe("New");
  expect((await db.heads.get("s"))!.assets.sort()).toEqual([...assets.keys()].sort());
});
