"use client";
/** A net of lines on a level plane that follows the camera and fades into the distance. */
import { useMemo } from "react";
import { Color, PlaneGeometry, ShaderMaterial } from "three";

interface LevelNetProps {
  height: number;
  /** The side of a cell, and after how many cells a line is a main one. */
  cell: number;
  every: number;
  color: string;
  mainColor: string;
  /** How far it is seen, metres. */
  reach: number;
}

const VERTEX = /* glsl */ `
  uniform float reach;
  varying vec2 place;
  void main() {
    vec4 world = modelMatrix * vec4(position.x * reach + cameraPosition.x, 0.0, position.z * reach + cameraPosition.z, 1.0);
    place = world.xz;
    gl_Position = projectionMatrix * viewMatrix * world;
  }`;

/** Lines are as wide on screen everywhere, by the derivatives of the place. */
const FRAGMENT = /* glsl */ `
  uniform float reach;
  uniform float cell;
  uniform float every;
  uniform vec3 color;
  uniform vec3 mainColor;
  varying vec2 place;
  float lines(float side, float width) {
    vec2 cells = place / side;
    vec2 away = abs(fract(cells - 0.5) - 0.5) / fwidth(cells);
    return 1.0 - min(min(away.x, away.y) + 1.0 - width, 1.0);
  }
  void main() {
    float some = lines(cell, 0.7);
    float thick = lines(cell * every, 0.9);
    float near = 1.0 - min(distance(cameraPosition.xz, place) / reach, 1.0);
    float share = (some + thick) * pow(near, 1.6);
    gl_FragColor = vec4(mix(color, mainColor, min(1.0, thick)), mix(0.75 * share, share, thick));
    if (gl_FragColor.a <= 0.0) discard;
    #include <colorspace_fragment>
  }`;

export function LevelNet({ height, cell, every, color, mainColor, reach }: LevelNetProps) {
  const material = useMemo(
    () =>
      new ShaderMaterial({
        vertexShader: VERTEX,
        fragmentShader: FRAGMENT,
        uniforms: {
          reach: { value: reach },
          cell: { value: cell },
          every: { value: every },
          color: { value: new Color(color) },
          mainColor: { value: new Color(mainColor) },
        },
        transparent: true,
        depthWrite: false,
      }),
    [reach, cell, every, color, mainColor],
  );
  const geometry = useMemo(() => new PlaneGeometry(2, 2).rotateX(-Math.PI / 2), []);
  return (
    <mesh geometry={geometry} material={material} position-y={height} frustumCulled={false} raycast={() => null} />
  );
}
