import fc from "fast-check";
import { emptyScene } from "@/core/scene";
import {
  changed,
  dragBegun,
  dragCancelled,
  dragEnded,
  dragged,
  redone,
  startHistory,
  undone,
  type History,
} from "./history";

const start = () => startHistory(emptyScene("Harbour"));
const rename = (name: string) => (scene: { name: string }) => {
  scene.name = name;
};

/** Any sequence of what an artist can do to a history. */
const moves = fc.array(
  fc.oneof(
    fc.record({ kind: fc.constant("change" as const), name: fc.string({ minLength: 1, maxLength: 3 }) }),
    fc.record({ kind: fc.constant("drag" as const), name: fc.string({ minLength: 1, maxLength: 3 }) }),
    fc.constantFrom(
      { kind: "begin" as const },
      { kind: "end" as const },
      { kind: "cancel" as const },
      { kind: "undo" as const },
      { kind: "redo" as const },
    ),
  ),
  { maxLength: 30 },
);

test("however changes, drags, undo and redo follow each other, undoing all comes back to the start and redoing all to the end", () => {
  fc.assert(
    fc.property(moves, (list) => {
      let history: History = start();
      for (const move of list) {
        if (move.kind === "change") history = changed(history, "rename", rename(move.name));
        else if (move.kind === "drag") history = dragged(history, rename(move.name));
        else if (move.kind === "begin") history = dragBegun(history, "drag");
        else if (move.kind === "end") history = dragEnded(history);
        else if (move.kind === "cancel") history = dragCancelled(history);
        else history = move.kind === "undo" ? undone(history) : redone(history);
      }
      history = dragEnded(history);
      const before = history.scene;
      const depth = history.past.length;
      for (let i = 0; i < depth; i++) history = undone(history);
      expect(history.scene).toEqual(start().scene);
      for (let i = 0; i < depth; i++) history = redone(history);
      expect(history.scene).toEqual(before);
    }),
  );
});

test("a drag is one change, however many steps it took; given up, or undone midway, it leaves nothing", () => {
  let history = dragBegun(start(), "move");
  for (const name of ["a", "b", "c"]) history = dragged(history, rename(name));
  expect(history.scene.name).toBe("c");
  expect(dragEnded(history).past).toHaveLength(1);
  expect(undone(dragEnded(history)).scene.name).toBe("Harbour");
  for (const given of [dragCancelled(history), undone(history)]) {
    expect(given.scene.name).toBe("Harbour");
    expect(given.past).toHaveLength(0);
    expect(given.drag).toBeNull();
  }
});

test("quick changes with the same mark are undone together, slow or different ones apart", () => {
  const typed = ["H", "Ha", "Har"].reduce(
    (h, name, i) => changed(h, "rename", rename(name), "name", 1000 + i * 100),
    start(),
  );
  expect(typed.past).toHaveLength(1);
  expect(undone(typed).scene.name).toBe("Harbour");
  expect(changed(typed, "rename", rename("Later"), "name", 9000).past).toHaveLength(2);
  expect(changed(typed, "rename", rename("Other"), "title", 1300).past).toHaveLength(2);
  expect(changed(typed, "nothing", () => undefined)).toBe(typed);
});
