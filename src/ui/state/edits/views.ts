/** Edits of saved views. */
import { freeName, newId, type View } from "@/core/scene";
import { scene, store } from "./common";

/** Where a camera is and what it looks at, metres. */
type Seen = Pick<View, "position" | "target">;

const written = ({ position, target }: Seen) => ({
  position: [...position] as [number, number, number],
  target: [...target] as [number, number, number],
});

/** Keeps what is seen as another view. */
export function saveView(seen: Seen): void {
  const name = freeName(
    "View 1",
    scene().views.map((view) => view.name),
  );
  store().change("Save view", (draft) => void draft.views.push({ id: newId(), name, ...written(seen) }));
}

/** Makes a view show what is seen now. */
export const updateView = (id: string, seen: Seen): void =>
  store().change("Update view", (draft) => {
    const view = draft.views.find((one) => one.id === id);
    if (view) Object.assign(view, written(seen));
  });
