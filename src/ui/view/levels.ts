/** *How each placement of a prop is drawn*: in full, by the prop's light version, as a box, or as a point. */
import type { Placements } from "@/core/place";
import type { Display } from "../state/session";
import { sizeOfMembers, type Share } from "./budget";
import { nearestOf, type Members } from "./placed";

export interface Levels {
  /** Bent and clipped ones, which have meshes of their own. */
  shaped: number[];
  full: number[];
  light: number[];
  boxes: number[];
  points: number[];
}

export interface Sight {
  display: Display;
  share: Share;
  /** Whether the prop can be drawn in full, and by a light version. */
  hasFull: boolean;
  hasLight: boolean;
  /** Where the camera is; null where that does not matter. */
  eye: readonly [number, number, number] | null;
  /** The largest extent of the prop, metres, and how many pixels a metre has at a distance of one metre. */
  extent: number;
  pixels: number;
}

/** In auto, what is smaller on screen than this (pixels) is a point; and what is smaller than that is not drawn in full. */
const [POINT, FULL] = [3, 14];

/** Whether how a prop's placements are drawn hangs on where the camera is. */
export const dependsOnCamera = ({ display, share, hasFull }: Omit<Sight, "eye">, members: Members): boolean =>
  display === "auto" || (display === "full" && hasFull && share.full > 0 && share.full < sizeOfMembers(members));

export function levelsOf(placements: Placements, members: Members, sight: Sight): Levels {
  const { display, share, hasFull, hasLight, eye } = sight;
  const others = [...members.plain, ...members.mirrored];
  const levels: Levels = { shaped: [], full: [], light: [], boxes: [], points: [] };
  if (display === "points") return { ...levels, points: [...members.shaped, ...others] };
  // What is bent has the greatest need of being seen as it is; of the others those that are near.
  const most = display === "boxes" || !hasFull ? 0 : share.full;
  levels.shaped = members.shaped.slice(0, most);
  const bySize =
    display === "auto" && eye ? sizesOf(placements, others, sight, eye) : { large: others, small: [], tiny: [] };
  const room = Math.max(0, most - members.shaped.length);
  const [near, far] = eye
    ? nearestOf(placements, bySize.large, eye, room)
    : [bySize.large.slice(0, room), bySize.large.slice(room)];
  levels.full = near;
  const rest = [...far, ...bySize.small];
  const light = hasLight && display !== "boxes" ? share.light : 0;
  levels.light = rest.slice(0, light);
  const left = [...members.shaped.slice(most), ...rest.slice(light)];
  const drawn = levels.shaped.length + levels.full.length + levels.light.length;
  const boxes = Math.max(0, share.boxes + share.light + share.full - drawn);
  levels.boxes = left.slice(0, boxes);
  levels.points = [...bySize.tiny, ...left.slice(boxes)];
  return levels;
}

/** By how large they are on screen. */
function sizesOf(
  { origin, position, scale }: Placements,
  members: readonly number[],
  { extent, pixels }: Sight,
  [x, y, z]: readonly [number, number, number],
): { large: number[]; small: number[]; tiny: number[] } {
  const sizes = { large: [] as number[], small: [] as number[], tiny: [] as number[] };
  for (const i of members) {
    const p = 3 * i;
    const far = Math.hypot(
      origin[0] + position[p] - x,
      origin[1] + position[p + 1] - y,
      origin[2] + position[p + 2] - z,
    );
    const size = (extent * Math.max(scale[p], scale[p + 1], scale[p + 2]) * pixels) / Math.max(far, 1e-3);
    (size >= FULL ? sizes.large : size >= POINT ? sizes.small : sizes.tiny).push(i);
  }
  return sizes;
}

/** Fewer than so many are drawn as one; more are parted into squares of about so many. */
const PER_REGION = 1500;
const MOST_REGIONS = 100;

/** Parted by where they stand, seen from above, so that what is out of sight need not be drawn. */
export function regionsOf({ position }: Placements, members: readonly number[]): (readonly number[])[] {
  const side = Math.floor(Math.sqrt(Math.min(MOST_REGIONS, members.length / PER_REGION)));
  if (side < 2) return members.length > 0 ? [members] : [];
  let [x0, z0, x1, z1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const i of members) {
    x0 = Math.min(x0, position[3 * i]);
    x1 = Math.max(x1, position[3 * i]);
    z0 = Math.min(z0, position[3 * i + 2]);
    z1 = Math.max(z1, position[3 * i + 2]);
  }
  const regions: number[][] = Array.from({ length: side * side }, () => []);
  const cell = (value: number, from: number, to: number) =>
    Math.min(side - 1, Math.floor((side * (value - from)) / Math.max(1e-9, to - from)));
  for (const i of members) regions[cell(position[3 * i], x0, x1) * side + cell(position[3 * i + 2], z0, z1)].push(i);
  return regions.filter((region) => region.length > 0);
}
