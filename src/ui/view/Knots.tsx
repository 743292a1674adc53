"use client";
/** Knots as small wooden rings of one size on screen, and between them the marks where one can be inserted. */
import { useMemo } from "react";
import { BufferAttribute, BufferGeometry, CanvasTexture, PointsMaterial, SRGBColorSpace } from "three";
import type { Line } from "@/core/line";
import type { Vec3 } from "@/core/math";
import { spanMiddles } from "../state";

interface KnotsProps {
  positions: readonly Vec3[];
  selected: readonly number[];
  /** With its line, the middles of the spans are marked too. */
  line?: Line;
}

export function Knots({ positions, selected, line }: KnotsProps) {
  const middles = useMemo(() => (line ? spanMiddles(line) : []), [line]);
  return (
    <>
      <Points positions={middles} look="insert" />
      <Points positions={positions.filter((_, i) => !selected.includes(i))} look="knot" />
      <Points positions={positions.filter((_, i) => selected.includes(i))} look="held" />
    </>
  );
}

type Look = "knot" | "held" | "insert" | "handle" | "mark" | "caught" | "tied" | "snap" | "faint";

const SIZES: Readonly<Record<Look, number>> = {
  knot: 18,
  held: 22,
  insert: 14,
  handle: 13,
  mark: 9,
  caught: 26,
  tied: 30,
  snap: 15,
  faint: 8,
};

/** Points of one size on screen. */
export function Points({ positions, look }: { positions: readonly Vec3[]; look: Look }) {
  const geometry = useMemo(() => {
    const made = new BufferGeometry();
    made.setAttribute("position", new BufferAttribute(Float32Array.from(positions.flat()), 3));
    return made;
  }, [positions]);
  if (positions.length === 0) return null;
  return (
    <points
      geometry={geometry}
      material={materialFor(look)}
      renderOrder={10}
      raycast={() => null}
      frustumCulled={false}
    />
  );
}

const materials = new Map<Look, PointsMaterial>();

function materialFor(look: Look): PointsMaterial {
  let material = materials.get(look);
  if (!material) {
    const map = new CanvasTexture(ringPicture(look));
    map.colorSpace = SRGBColorSpace;
    material = new PointsMaterial({
      map,
      size: SIZES[look] * window.devicePixelRatio,
      sizeAttenuation: false,
      transparent: true,
      depthTest: false,
      toneMapped: false,
    });
    materials.set(look, material);
  }
  return material;
}

function ringPicture(look: Look): HTMLCanvasElement {
  const canvas = document.createElement("canvas");
  canvas.width = canvas.height = 64;
  const pen = canvas.getContext("2d")!;
  const ring = (radius: number, width: number, color: string) => {
    pen.beginPath();
    pen.arc(32, 32, radius, 0, 7);
    pen.lineWidth = width;
    pen.strokeStyle = color;
    pen.stroke();
  };
  if (look === "insert") {
    pen.beginPath();
    pen.arc(32, 32, 22, 0, 7);
    pen.fillStyle = "#fdfbf6d9";
    pen.fill();
    ring(22, 4, "#1e6f77");
    pen.fillStyle = "#1e6f77";
    pen.fillRect(20, 29.5, 24, 5);
    pen.fillRect(29.5, 20, 5, 24);
    return canvas;
  }
  if (look === "tied") {
    // A loop of cord round the ring, its ends crossed.
    pen.lineCap = "round";
    for (const [width, color] of [
      [7, "#5c4423"],
      [4, "#e5cfa0"],
    ] as const) {
      pen.beginPath();
      pen.arc(32, 30, 24, 0.35 * Math.PI, 2.65 * Math.PI - 2 * Math.PI + 2 * Math.PI);
      pen.moveTo(32 + 24 * Math.cos(0.35 * Math.PI), 30 + 24 * Math.sin(0.35 * Math.PI));
      pen.lineTo(26, 62);
      pen.moveTo(32 + 24 * Math.cos(0.65 * Math.PI), 30 + 24 * Math.sin(0.65 * Math.PI));
      pen.lineTo(38, 62);
      pen.lineWidth = width;
      pen.strokeStyle = color;
      pen.stroke();
    }
    return canvas;
  }
  if (look === "snap" || look === "faint") {
    // A cup that something fits into.
    pen.beginPath();
    pen.arc(32, 32, look === "snap" ? 24 : 20, 0, 7);
    pen.fillStyle = look === "snap" ? "#fdfbf6" : "#fdfbf699";
    pen.fill();
    ring(look === "snap" ? 24 : 20, look === "snap" ? 9 : 6, look === "snap" ? "#c98a1b" : "#7d8790");
    if (look === "snap") {
      pen.beginPath();
      pen.arc(32, 32, 8, 0, 7);
      pen.fillStyle = "#1f2a33";
      pen.fill();
    }
    return canvas;
  }
  if (look === "handle" || look === "mark") {
    pen.beginPath();
    pen.arc(32, 32, 24, 0, 7);
    pen.fillStyle = look === "mark" ? "#fdfbf6" : "#c98a1b";
    pen.fill();
    ring(24, 8, look === "mark" ? "#1e6f77" : "#fdfbf6");
    return canvas;
  }
  if (look === "caught") {
    ring(26, 6, "#b5363f");
    return canvas;
  }
  ring(20, 15, "#5c4423");
  ring(20, 10, look === "held" ? "#c98a1b" : "#c79a5d");
  if (look === "held") ring(29, 3.5, "#1f2a33");
  return canvas;
}
