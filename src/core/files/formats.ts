/** The table of the formats that dressings are written in. */
import { writeCsv, writeCsvFrame } from "./csv";
import { writeGlb } from "./glb";
import { JSON_END, writeJson, writeJsonFrame } from "./json";
import type { Assets } from "./assets";
import type { EvaluatedScene } from "./evaluated";

/** A way of writing placements. */
interface Format {
  label: string;
  extension: string;
  mediaType: string;
  /** @param compressed whether meshes are to take less room, where the form knows how */
  write(evaluated: EvaluatedScene, assets: Assets, compressed?: boolean): Uint8Array | Promise<Uint8Array>;
  /** Whether it holds surfaces, lines and animations as well. */
  holdsScenery: boolean;
  /** Writes several frames into one file, one after another, and what comes behind them; null where a file holds one moment. */
  frames: { write(evaluated: EvaluatedScene, frame: number, isFirst: boolean): Uint8Array; end: string } | null;
}

export type FormatName = "glb" | "glb-plain" | "csv" | "json";

export const FORMATS: Readonly<Record<FormatName, Format>> = {
  glb: {
    label: "GLB, instanced",
    extension: "glb",
    mediaType: "model/gltf-binary",
    write: (evaluated, assets, compressed) => writeGlb(evaluated, assets, "instanced", compressed),
    holdsScenery: true,
    frames: null,
  },
  "glb-plain": {
    label: "GLB, plain nodes",
    extension: "glb",
    mediaType: "model/gltf-binary",
    write: (evaluated, assets, compressed) => writeGlb(evaluated, assets, "plain", compressed),
    holdsScenery: true,
    frames: null,
  },
  csv: {
    label: "CSV table",
    extension: "csv",
    mediaType: "text/csv",
    write: writeCsv,
    holdsScenery: false,
    frames: { write: writeCsvFrame, end: "" },
  },
  json: {
    label: "JSON",
    extension: "json",
    mediaType: "application/json",
    write: writeJson,
    holdsScenery: false,
    frames: { write: writeJsonFrame, end: JSON_END },
  },
};
