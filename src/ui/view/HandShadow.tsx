"use client";
/** The shadow of the hand that sows, on whatever lies under it: as wide as it reaches. */
import { CanvasTexture, DoubleSide, Quaternion, Vector3, type Texture } from "three";
import { useSession } from "../state";
import { MADDER, SEA } from "./Guides";
import { useSower } from "./sowing";

/** Pixels of its picture, of which it fills a little less, since it is soft. */
const PIXELS = 256;
/** Off the surface by this share of its radius, so that it does not sink into what is a little rough. */
const OFF = 0.02;
const CORNERS = 72;

/** Palm and fingers as strokes: from, to and how thick, in shares of the picture. */
const FINGERS: readonly (readonly [x0: number, y0: number, x1: number, y1: number, thick: number])[] = [
  [0.5, 0.58, 0.5, 0.64, 0.27],
  [0.41, 0.5, 0.36, 0.22, 0.075],
  [0.48, 0.48, 0.47, 0.16, 0.08],
  [0.55, 0.48, 0.58, 0.19, 0.078],
  [0.61, 0.52, 0.67, 0.28, 0.068],
  [0.4, 0.66, 0.23, 0.5, 0.08],
];

let texture: Texture | null = null;

function shadow(): Texture {
  if (texture) return texture;
  const canvas = Object.assign(document.createElement("canvas"), { width: PIXELS, height: PIXELS });
  const pen = canvas.getContext("2d")!;
  pen.strokeStyle = "#1f2a33";
  pen.lineCap = "round";
  pen.filter = "blur(5px)";
  for (const [x0, y0, x1, y1, thick] of FINGERS) {
    pen.lineWidth = thick * PIXELS;
    pen.beginPath();
    pen.moveTo(x0 * PIXELS, y0 * PIXELS);
    pen.lineTo(x1 * PIXELS, y1 * PIXELS);
    pen.stroke();
  }
  return (texture = new CanvasTexture(canvas));
}

export function HandShadow() {
  const { at, radius, gathers } = useSower();
  const sows = useSession(({ tool }) => tool === "sow");
  if (!sows || !at) return null;
  const [x, y, z] = at.point.map((value, k) => value + OFF * radius * at.normal[k]);
  const turn = new Quaternion().setFromUnitVectors(new Vector3(0, 0, 1), new Vector3(...at.normal));
  const over = { transparent: true, depthTest: false, depthWrite: false, side: DoubleSide } as const;
  return (
    <group position={[x, y, z]} quaternion={turn} scale={radius}>
      <mesh renderOrder={20} raycast={() => null}>
        <planeGeometry args={[2, 2]} />
        <meshBasicMaterial map={shadow()} opacity={0.3} {...over} />
      </mesh>
      <mesh renderOrder={21} raycast={() => null}>
        <ringGeometry args={[0.97, 1, CORNERS]} />
        <meshBasicMaterial color={gathers ? MADDER : SEA} {...over} />
      </mesh>
    </group>
  );
}
