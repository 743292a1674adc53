"use client";
/** What the pointer does in the view: hover, select, move and insert knots, draw. */
import { useThree } from "@react-three/fiber";
import { useEffect } from "react";
import { useSceneStore } from "@/store";
import { dressingOf, insertKnot, lineOf } from "../state/edits";
import { useResults } from "../state/results";
import { selectDressing, selectLine, selectNothing, selectPlacements, useSession } from "../state/session";
import { addKnot, drawShape, finishDrawing, stopDrawing, takeBackKnot, useDraw } from "./draw-state";
import { spanMiddles } from "./guides";
import { Aim } from "./aim";
import type { Controls } from "./CameraRig";
import type { Vec3 } from "@/core/math";

/** A press that moves no farther than this (pixels) is a click. */
const CLICK = 4;

export function Pointer() {
  const { gl, camera, scene, controls } = useThree();
  useEffect(
    () => attach(gl.domElement, new Aim(gl.domElement, camera, scene), controls as Controls | null),
    [gl, camera, scene, controls],
  );
  return null;
}

function attach(element: HTMLCanvasElement, aim: Aim, controls: Controls | null): () => void {
  let pressed: { x: number; y: number; moved: boolean } | null = null;
  let held: { line: string; knot: number; start: Vec3; begun: boolean } | null = null;
  let frame = 0;

  const store = () => useSceneStore.getState();
  const session = () => useSession.getState();
  const focusedLine = () => {
    const { focus } = session();
    return focus.kind === "line" ? lineOf(store().history.scene, focus.id) : undefined;
  };

  const down = (event: PointerEvent) => {
    if (event.button !== 0) return;
    pressed = { x: event.clientX, y: event.clientY, moved: false };
    aim.at(event);
    const line = session().tool === "select" ? focusedLine() : undefined;
    if (!line) return;
    const knot = aim.nearest(
      line.knots.map((k) => k.position),
      12,
    );
    if (knot === null) return;
    held = { line: line.id, knot, start: line.knots[knot].position, begun: false };
    if (controls) controls.enabled = false;
    element.setPointerCapture(event.pointerId);
  };

  const move = (event: PointerEvent) => {
    if (pressed && Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) > CLICK) pressed.moved = true;
    if (held && pressed?.moved) dragKnot(event);
    else if (event.buttons === 0) {
      cancelAnimationFrame(frame);
      frame = requestAnimationFrame(() => hover(event));
    }
  };

  const dragKnot = (event: PointerEvent) => {
    const { line: id, knot, start } = held!;
    if (!held!.begun) {
      held!.begun = true;
      store().beginDrag("Move knot");
      selectLine(id, knot);
    }
    aim.at(event);
    const to = event.shiftKey ? aim.upright(start) : event.altKey ? aim.ground() : aim.level(start);
    if (!to) return;
    store().drag((draft) => {
      const line = draft.lines.find((l) => l.id === id);
      if (line?.knots[knot]) line.knots[knot].position = [to[0], to[1], to[2]];
    });
  };

  const up = (event: PointerEvent) => {
    if (event.button !== 0) return;
    const click = pressed && !pressed.moved;
    pressed = null;
    const knot = held;
    held = null;
    if (controls) controls.enabled = true;
    if (knot?.begun) {
      store().endDrag();
      return;
    }
    if (!click) return;
    aim.at(event);
    if (knot) selectLine(knot.line, knot.knot);
    else if (session().tool === "draw") drawClick();
    else selectClick(event.shiftKey);
  };

  const drawClick = () => {
    const { form, knots, closing } = useDraw.getState();
    if (closing) return finishDrawing(true);
    const position = aim.ground();
    if (position && form !== "free") return drawShape(form, position);
    if (position && knots.length < 10_000) addKnot(position);
  };

  const selectClick = (more: boolean) => {
    const line = focusedLine();
    if (line) {
      const middle = aim.nearest(spanMiddles(line), 10);
      if (middle !== null) return insertKnot(line.id, middle, spanMiddles(line)[middle]);
    }
    const hit = placementUnder();
    if (hit) return selectPlacements(hit.dressing, [hit.key], more);
    const guide = aim.line(store().history.scene.lines, 7);
    if (guide) return selectLine(guide);
    selectNothing();
  };

  const placementUnder = () => {
    const bounds = new Map(store().history.scene.props.map((prop) => [prop.id, prop.bounds]));
    return aim.placement(useResults.getState().byDressing, bounds);
  };

  const hover = (event: PointerEvent) => {
    aim.at(event);
    if (session().tool === "draw") {
      const { knots } = useDraw.getState();
      const closing = knots.length > 2 && aim.nearest([knots[0]], 12) === 0;
      useDraw.setState({ cursor: aim.ground(), closing });
      element.style.cursor = "crosshair";
      return;
    }
    const line = focusedLine();
    const handle =
      line &&
      (aim.nearest(
        line.knots.map((k) => k.position),
        12,
      ) ??
        aim.nearest(spanMiddles(line), 10));
    const hit = handle === null || handle === undefined ? placementUnder() : null;
    const before = session().hover;
    if (hit) useSession.setState({ hover: { ...hit, x: event.clientX, y: event.clientY } });
    else if (before) useSession.setState({ hover: null });
    const guide = !hit && aim.line(store().history.scene.lines, 7) !== null;
    element.style.cursor = typeof handle === "number" ? "grab" : hit || guide ? "pointer" : "";
  };

  const leave = () => {
    cancelAnimationFrame(frame);
    if (session().hover) useSession.setState({ hover: null });
    if (session().tool === "draw") useDraw.setState({ cursor: null });
  };

  const double = () => {
    if (session().tool === "draw") return finishDrawing(false);
    const hit = placementUnder();
    const dressing = hit && dressingOf(store().history.scene, hit.dressing);
    if (dressing) selectDressing(dressing.id);
  };

  const key = (event: KeyboardEvent) => {
    if (event.key === "Escape" && held?.begun) {
      store().cancelDrag();
      held = null;
      pressed = null;
      if (controls) controls.enabled = true;
      event.stopPropagation();
      return;
    }
    if (session().tool !== "draw" || isTyping(event.target)) return;
    if (event.key === "Enter") finishDrawing(false);
    else if (event.key === "Escape") stopDrawing();
    else if (event.key === "Backspace") takeBackKnot();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  element.addEventListener("pointerdown", down, { capture: true });
  element.addEventListener("pointermove", move);
  element.addEventListener("pointerup", up);
  element.addEventListener("pointerleave", leave);
  element.addEventListener("dblclick", double);
  window.addEventListener("keydown", key, { capture: true });
  return () => {
    cancelAnimationFrame(frame);
    element.removeEventListener("pointerdown", down, { capture: true });
    element.removeEventListener("pointermove", move);
    element.removeEventListener("pointerup", up);
    element.removeEventListener("pointerleave", leave);
    element.removeEventListener("dblclick", double);
    window.removeEventListener("keydown", key, { capture: true });
  };
}

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));
