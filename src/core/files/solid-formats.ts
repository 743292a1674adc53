/** The forms that solids are taken home in; `solid-file.ts` writes them. */
export const SOLID_FORMATS = {
  stl: { label: "STL", help: "Binary, in millimetres, upright.", ending: "stl" },
  "3mf": { label: "3MF", help: "In millimetres, upright.", ending: "3mf" },
  glb: { label: "GLB", help: "In metres, with normals.", ending: "glb" },
} as const;

export type SolidForm = keyof typeof SOLID_FORMATS;
