"use client";
/** A line through points, so many pixels wide on screen. */
import { extend } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import { Line2 } from "three/examples/jsm/lines/Line2.js";
import { LineGeometry } from "three/examples/jsm/lines/LineGeometry.js";
import { LineMaterial } from "three/examples/jsm/lines/LineMaterial.js";
import { LineSegments2 } from "three/examples/jsm/lines/LineSegments2.js";
import { LineSegmentsGeometry } from "three/examples/jsm/lines/LineSegmentsGeometry.js";
import type { Vec3 } from "@/core/math";

const Wide = extend(Line2);
const Material = extend(LineMaterial);

interface FatLineProps {
  /** At least two. */
  points: readonly Vec3[];
  color: string;
  /** Pixels. */
  width: number;
  opacity?: number;
  /** Drawn over what stands before it. */
  onTop?: boolean;
}

const Segments = extend(LineSegments2);

/** Many lines as wide on screen as each other, in one piece: a piece from each two points to the next two. */
export function FatSegments({ points, color, width, opacity = 1 }: Omit<FatLineProps, "onTop">) {
  const geometry = useMemo(() => new LineSegmentsGeometry().setPositions(points.flat()), [points]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  return (
    <Segments geometry={geometry} raycast={() => null}>
      <Material attach="material" linewidth={width} transparent {...{ color, opacity }} />
    </Segments>
  );
}

/** It is passed over by rays. */
export function FatLine({ points, color, width, opacity = 1, onTop = false }: FatLineProps) {
  const geometry = useMemo(() => new LineGeometry().setPositions(points.flat()), [points]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  return (
    <Wide geometry={geometry} raycast={() => null} renderOrder={onTop ? 8 : 0}>
      <Material attach="material" linewidth={width} transparent {...{ color, opacity }} depthTest={!onTop} />
    </Wide>
  );
}
