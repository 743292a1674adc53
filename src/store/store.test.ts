import { localStorageStand } from "./testing";
import { emptyScene, type Scene } from "@/core/scene";
import { harbourScene, HASHES } from "@/core/scene/testing";
import { db } from "./db";
import {
  addScene,
  assetsFor,
  ConflictError,
  deleteScene,
  duplicateScene,
  listScenes,
  loadScene,
  putPicture,
  renameScene,
  saveScene,
} from "./scenes";
import { useSceneStore } from "./scene-store";

const store = () => useSceneStore.getState();
const bytes = (...numbers: number[]) => Uint8Array.from(numbers);
const assets = new Map([
  [HASHES.buoy, bytes(1, 2)],
  [HASHES.oar, bytes(3)],
]);
const rename = (name: string) => store().change("Rename", (scene: { name: string }) => void (scene.name = name));
const stored = async (id: string): Promise<Scene> => (await loadScene(id))!.scene;

beforeEach(async () => {
  jest.useRealTimers();
  await store().flush();
  await Promise.all([db.scenes.clear(), db.assets.clear(), db.pictures.clear()]);
});

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

describe("scenes", () => {
  test("come back as they were put, under a name of their own, the latest first", async () => {
    const first = await addScene(harbourScene(), assets);
    const second = await addScene(harbourScene(), assets);
    await db.scenes.update(first, { modified: 5 });
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
    expect([...(await assetsFor(harbourScene())).keys()]).toEqual([HASHES.buoy]);
    await restore();
    expect(await stored(doomed)).toEqual(harbourScene());
    expect(await assetsFor(harbourScene())).toEqual(assets);
    expect((await listScenes()).find(({ id }) => id === doomed)!.picture).toBe("data:picture");
  });

  test("only who knows the latest revision may save", async () => {
    const id = await addScene(harbourScene(), assets);
    const { revision } = (await loadScene(id))!;
    const next = await saveScene(id, { ...harbourScene(), name: "Mine" }, revision);
    await expect(saveScene(id, { ...harbourScene(), name: "Theirs" }, revision)).rejects.toThrow(ConflictError);
    expect((await stored(id)).name).toBe("Mine");
    await expect(saveScene(id, harbourScene(), next)).resolves.toBe(next + 1);
  });
});

describe("the scene on the table", () => {
  async function opened(): Promise<string> {
    const id = await addScene(emptyScene("Quay"), new Map());
    expect(await store().open(id)).toBe("opened");
    return id;
  }

  test("is saved by itself after a change, and says so", async () => {
    const id = await opened();
    rename("Pier");
    expect(store().save.kind).toBe("unsaved");
    await new Promise((resolve) => setTimeout(resolve, 400));
    expect(store().save.kind).toBe("saved");
    expect((await stored(id)).name).toBe("Pier");
  });

  test("many changes in a row are saved within a second, not only when they end", async () => {
    const id = await opened();
    const start = Date.now();
    while (Date.now() - start < 1300) {
      rename(`Pier ${Date.now()}`);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    expect((await stored(id)).name).not.toBe("Quay");
  });

  test("what another tab saved is not overwritten; theirs can be taken, and saving goes on", async () => {
    const id = await opened();
    await renameScene(id, "Theirs");
    rename("Mine");
    await store().flush();
    expect(store().save.kind).toBe("conflict");
    expect((await stored(id)).name).toBe("Theirs");
    await store().takeTheirs();
    expect(store().history.scene.name).toBe("Theirs");
    rename("Ours");
    await store().flush();
    expect((await stored(id)).name).toBe("Ours");
  });

  test("what is unsaved when the page goes away is there again when it is next opened", async () => {
    const id = await opened();
    rename("Unsaved");
    const save = jest.spyOn(db, "transaction").mockRejectedValue(new Error("the page is gone"));
    store().leave();
    await store().flush();
    save.mockRestore();
    expect((await stored(id)).name).toBe("Quay");
    useSceneStore.setState({ id: null });
    await store().open(id);
    expect(store().history.scene.name).toBe("Unsaved");
    await store().flush();
    expect((await stored(id)).name).toBe("Unsaved");
    expect(localStorageStand.length).toBe(0);
  });

  test("what was put down is left aside when the save reached the database after all", async () => {
    const id = await opened();
    rename("Saved in time");
    store().leave();
    await store().flush();
    rename("And more");
    await store().flush();
    useSceneStore.setState({ id: null });
    await store().open(id);
    expect(store().history.scene.name).toBe("And more");
    expect(localStorageStand.length).toBe(0);
  });

  test("a failing database is told, and nothing of the scene is lost", async () => {
    await opened();
    const save = jest.spyOn(db, "transaction").mockRejectedValue(new Error("the disk is full"));
    rename("Kept");
    await store().flush();
    expect(store().save).toEqual({ kind: "failed", reason: "the disk is full" });
    expect(store().history.scene.name).toBe("Kept");
    save.mockRestore();
    await store().flush();
    expect(store().save.kind).toBe("saved");
  });

  test("a scene that is not there is missing", async () => {
    expect(await store().open("nobody")).toBe("missing");
  });
});
