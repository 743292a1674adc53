/** The body that a section leaves behind along a way: cut on the bisecting plane wherever the way bends. */
import { add, cross, dot, lengthOf, normalize, scale, subtract, type Vec3 } from "../math";
import type { ClosedMesh } from "./closed";
import type { Run, Station } from "./way";

/** The outline of a cut across, counter-clockwise looking along the line, at radius 1. */
export type Section = readonly (readonly [across: number, up: number])[];

/** A round end has so many rings for a quarter of the way round the section. */
const CAP = 4;

/** The body that a section leaves behind along a way. */
export function sweep(
  { stations, ring, before: from, after: onTo }: Run,
  section: Section,
  radius: number,
  round: readonly [boolean, boolean],
): ClosedMesh {
  const [n, m] = [stations.length, section.length];
  const position: number[] = [];
  const index: number[] = [];
  const way = (i: number): Vec3 | null => {
    if (!ring && i < 0) return from ? normalize(subtract(stations[0].position, from)) : null;
    if (!ring && i >= n - 1) return onTo ? normalize(subtract(onTo, stations[n - 1].position)) : null;
    return normalize(subtract(stations[(i + 1) % n].position, stations[(i + n) % n].position));
  };
  const ringAt = (centre: Vec3, at: (across: number, up: number) => Vec3): void => {
    for (const [a, u] of section) position.push(...add(centre, at(a, u)));
  };
  const point = (p: Vec3): number => {
    position.push(...p);
    return position.length / 3 - 1;
  };
  /** Rings from `a` to `b` become a wall. */
  const wall = (a: number, b: number): void => {
    for (let k = 0; k < m; k++) {
      const l = (k + 1) % m;
      index.push(a + k, a + l, b + l, a + k, b + l, b + k);
    }
  };
  const cap = (ringStart: number, tip: number, atEnd: boolean): void => {
    for (let k = 0; k < m; k++) {
      const l = (k + 1) % m;
      if (atEnd) index.push(tip, ringStart + k, ringStart + l);
      else index.push(tip, ringStart + l, ringStart + k);
    }
  };
  /** A ring square to the way at one of its ends, drawn in and set back by an angle from 0 to a quarter turn. */
  const capRing = (i: number, forward: Vec3, way: 1 | -1, angle: number): void => {
    const { position: p, across, up, times } = squared(stations[i], forward);
    const size = radius * times;
    const centre = add(p, scale(forward, way * size * Math.sin(angle)));
    ringAt(centre, (a, u) => scale(add(scale(across, a), scale(up, u)), size * Math.cos(angle)));
  };
  const rings: number[] = [];
  const begin = () => rings.push(position.length / 3);
  if (!ring && round[0]) {
    for (let c = CAP - 1; c > 0; c--) {
      begin();
      capRing(0, way(0)!, -1, (Math.PI / 2) * (c / CAP));
    }
  }
  for (let i = 0; i < n; i++) {
    const [before, after] = [way(i - 1) ?? way(i)!, way(i) ?? way(i - 1)!];
    const tangent = normalize(add(before, after));
    const own = squared(stations[i], tangent);
    const bend = subtract(after, before);
    const turn = lengthOf(bend);
    const wider = 1 / Math.max(0.25, dot(tangent, after));
    begin();
    ringAt(own.position, (a, u) => {
      const beside = scale(add(scale(own.across, a), scale(own.up, u)), radius * own.times);
      if (turn < 1e-9) return beside;
      const towards = scale(bend, 1 / turn);
      return add(beside, scale(towards, (wider - 1) * dot(beside, towards)));
    });
  }
  if (!ring && round[1]) {
    for (let c = 1; c < CAP; c++) {
      begin();
      capRing(n - 1, way(n - 2)!, 1, (Math.PI / 2) * (c / CAP));
    }
  }
  for (let r = 0; r + 1 < rings.length; r++) wall(rings[r], rings[r + 1]);
  if (ring) wall(rings[rings.length - 1], rings[0]);
  else {
    const [first, last] = [stations[0], stations[n - 1]];
    const tip = (s: Station, forward: Vec3, isRound: boolean) =>
      point(isRound ? add(s.position, scale(forward, radius * s.times)) : s.position);
    cap(rings[0], tip(first, scale(way(0)!, -1), round[0]), false);
    cap(rings[rings.length - 1], tip(last, way(n - 2)!, round[1]), true);
  }
  return { position: Float32Array.from(position), index: Uint32Array.from(index) };
}

/** A station with its directions square to the way. */
function squared(station: Station, tangent: Vec3): Station {
  const across = normalize(subtract(station.across, scale(tangent, dot(station.across, tangent))));
  return { ...station, across, up: cross(tangent, across) };
}
