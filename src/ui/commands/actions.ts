/** What commands do to whatever is selected, in focus or seen at the moment. */
import { hasKnots } from "@/core/line";
import { indicesOf } from "@/core/place";
import { useSceneStore } from "@/store";
import {
  addLine,
  allKnots,
  currentKnot,
  deleteKnots,
  deleteLine,
  deleteMix,
  deleteProp,
  deleteSurface,
  duplicateDressing,
  duplicateLine,
  duplicateSurface,
  editDressing,
  insertKnotBeside,
  lineOf,
  millimetre,
  NO_KEYS,
  placementsNow,
  removePlacements,
  selectLine,
  selectNothing,
  selectPlacements,
  useResults,
  useSession,
} from "../state";
import { cameraNow, drawAs, startDrawing, stopDrawing, stopPainting, stopPinning, stopSowing } from "../view";

export const store = () => useSceneStore.getState();
export const session = () => useSession.getState();
export const show = (dialog: ReturnType<typeof session>["dialog"]) => () => useSession.setState({ dialog });

export function deleteSelected(): void {
  const { focus, knots, keys, dressing } = session();
  if (focus.kind === "line") {
    const line = lineOf(store().shown, focus.id);
    if (knots.length > 0 && line && hasKnots(line)) deleteKnots(focus.id, knots);
    else deleteLine(focus.id);
  } else if (focus.kind === "prop") deleteProp(focus.id);
  else if (focus.kind === "mix") deleteMix(focus.id);
  else if (focus.kind === "surface") deleteSurface(focus.id);
  else if (dressing !== null && keys.size > 0) removePlacements(dressing, keys);
}

export function insertKnotHere(): void {
  const { focus } = session();
  if (focus.kind === "line") insertKnotBeside(focus.id, currentKnot(session()) ?? 0);
}

/** The placements of the selected dressing. */
export function placementsShown() {
  const { dressing } = session();
  return dressing === null ? undefined : useResults.getState().byDressing.get(dressing)?.placements;
}

/** All placements of the dressing; of a line in focus, all its knots. */
export function selectAll(): void {
  const { dressing, focus } = session();
  const line = focus.kind === "line" ? lineOf(store().shown, focus.id) : undefined;
  if (line) return useSession.setState({ knots: allKnots(line) });
  const placements = placementsShown();
  if (dressing !== null && placements) selectPlacements(dressing, [...placements.key]);
}

export function duplicateSelected(): void {
  const { focus, dressing } = session();
  if (focus.kind === "line") duplicateLine(focus.id);
  else if (focus.kind === "surface") duplicateSurface(focus.id);
  else if (dressing !== null) duplicateDressing(dressing);
}

export const showBoxes = () => useSession.setState({ display: session().display === "boxes" ? "full" : "boxes" });

/** Out of what is going on, one thing at a time: a drag, a field, drawing, the selection. */
export function escape(): void {
  const focused = globalThis.document?.activeElement;
  const inField = focused && /^(INPUT|TEXTAREA)$/.test(focused.tagName) ? (focused as HTMLElement) : null;
  if (store().history.drag) store().cancelDrag();
  else if (inField) inField.blur();
  else if (session().tool === "draw") stopDrawing();
  else if (session().tool === "paint") stopPainting();
  else if (session().tool === "pin") stopPinning();
  else if (session().tool === "sow") stopSowing();
  else if (session().grip !== null) useSession.setState({ grip: null });
  else if (session().moving !== null) useSession.setState({ moving: null });
  else if (session().keys.size > 0) useSession.setState({ keys: NO_KEYS });
  else if (session().knots.length > 0) useSession.setState({ knots: [] });
  else selectNothing();
}

export function drawForm(form: Parameters<typeof drawAs>[0]): void {
  startDrawing();
  drawAs(form);
}

/** A straight line of two metres in the middle of what is seen, with its first number at hand. */
export function lineByNumbers(): void {
  const [x, y, z] = cameraNow.target.map(millimetre);
  addLine(
    [
      [millimetre(x - 1), y, z],
      [millimetre(x + 1), y, z],
    ],
    false,
    session().drawProp,
  );
  selectLine(store().shown.lines.at(-1)!.id, 0);
  setTimeout(() => document.querySelector<HTMLInputElement>('input[aria-label="Knot 1 x"]')?.focus(), 60);
}

export const dressAs = (dressKind: NonNullable<ReturnType<typeof session>["dressKind"]>) => () =>
  useSession.setState({ dialog: "dress", dressKind });

export const meets = (side: "top" | "bottom"): void =>
  editDressing(session().dressing!, side === "top" ? "Hang" : "Stand", ({ stance }) => void (stance.meetsUp = side));

/** The line in focus, if it has knots. */
export function knottedLine() {
  const { focus } = session();
  const line = focus.kind === "line" ? lineOf(store().shown, focus.id) : undefined;
  return line && hasKnots(line) ? line : undefined;
}

/** The assembly in focus, or the one that is selected in the view; null where there is none. */
export function selectedAssembly(): string | null {
  const { focus, dressing, keys } = session();
  const isAssembly = (id: string | undefined) => store().shown.props.some((prop) => prop.id === id && prop.assembly);
  const placed = dressing !== null && keys.size > 0 ? placementsNow(dressing) : undefined;
  const [first] = placed ? indicesOf(placed.key, keys) : [];
  const id = focus.kind === "prop" ? focus.id : placed?.props[placed.prop[first]];
  return id !== undefined && isAssembly(id) ? id : null;
}
