/** Models of assemblies: everything that is in them as one, for their pictures and for setting them up. */
import { Box3, BufferAttribute, BufferGeometry, Matrix4, Vector3, type Material } from "three";
import { mergeGeometries } from "three/examples/jsm/utils/BufferGeometryUtils.js";
import { FLAG, NO_PROP, writeMatrix, type Placements } from "@/core/place";
import type { Prop } from "@/core/scene";
import { useSceneStore } from "@/store";
import { useInsides } from "../state";
import { drawnProps } from "./parts";
import { modelOf, preparedModel, requestModel, transformed, useModels, type Model, type ModelPart } from "./models";

/** A picture shows no more triangles than this; what comes after them is left out of it. */
const MOST_TRIANGLES = 100_000;
/** What changes is pictured when it has rested for so long, milliseconds. */
const REST = 250;

const MIRROR = new Matrix4().makeScale(-1, 1, 1);

/** What a model was made of. */
const madeOf = new Map<string, { placements: Placements; models: readonly (Model | null)[] }>();

/** Keeps the models of all assemblies as they are. @returns ends it */
export function keepAssembled(): () => void {
  const look = () => {
    const { props } = useSceneStore.getState().shown;
    const { insides } = useInsides.getState();
    const byId = new Map(drawnProps().map((prop) => [prop.id, prop]));
    for (const prop of props) if (prop.assembly) keepModel(prop, insides.get(prop.id)?.placements ?? null, byId);
  };
  let resting: ReturnType<typeof setTimeout> | undefined;
  const soon = () => {
    clearTimeout(resting);
    resting = setTimeout(look, REST);
  };
  const ends = [
    useInsides.subscribe(soon),
    useModels.subscribe(soon),
    useSceneStore.subscribe((now, before) => now.shown.props !== before.shown.props && soon()),
  ];
  look();
  return () => {
    clearTimeout(resting);
    ends.forEach((end) => end());
  };
}

function keepModel(prop: Prop, placements: Placements | null, byId: ReadonlyMap<string, Prop>): void {
  const name = modelOf(prop);
  if (!placements) return;
  const known = madeOf.get(name);
  const models = placements.props.map((id) => {
    const own = byId.get(id);
    if (!own || own.assembly) return null;
    if (own.asset !== null) void requestModel(own.asset);
    const loaded = useModels.getState().models.get(modelOf(own));
    return loaded && typeof loaded !== "string" ? preparedModel(own, loaded) : null;
  });
  if (known?.placements === placements && models.every((model, k) => model === known.models[k])) return;
  madeOf.set(name, { placements, models });
  const model = assembled(placements, models);
  useModels.setState(({ models: all }) => {
    const next = new Map(all);
    // Of what it was before nobody asks any more.
    for (const old of all.keys()) if (old !== name && old.startsWith(`${prop.id} `)) forget(next, old);
    return { models: model ? next.set(name, model) : next };
  });
}

function forget(models: Map<string, unknown>, name: string): void {
  models.delete(name);
  madeOf.delete(name);
}

function assembled(p: Placements, models: readonly (Model | null)[]): Model | null {
  const turned = models.map(() => null as Model | null);
  const byMaterial = new Map<Material, BufferGeometry[]>();
  const numbers = new Float32Array(16);
  const origin = new Matrix4().makeTranslation(...p.origin);
  let triangles = 0;
  for (let i = 0; i < p.count && triangles < MOST_TRIANGLES; i++) {
    const plain = p.flags[i] & FLAG.blank || p.prop[i] === NO_PROP ? null : models[p.prop[i]];
    if (!plain) continue;
    const model = p.flags[i] & FLAG.mirrored ? (turned[p.prop[i]] ??= transformed(plain, MIRROR)) : plain;
    writeMatrix(p, i, numbers, 0);
    const matrix = origin.clone().multiply(new Matrix4().fromArray(numbers));
    triangles += model.triangles;
    for (const { geometry, material } of model.parts) {
      const own = Array.isArray(material) ? material[0] : material;
      const list = byMaterial.get(own);
      const placed = alike(geometry).applyMatrix4(matrix);
      if (list) list.push(placed);
      else byMaterial.set(own, [placed]);
    }
  }
  const parts = [...byMaterial].flatMap(([material, all]): ModelPart[] => {
    const geometry = mergeGeometries(all);
    geometry?.computeBoundingBox();
    return geometry ? [{ geometry, material }] : [];
  });
  if (parts.length === 0) return null;
  const box = new Box3();
  for (const { geometry } of parts) box.union(geometry.boundingBox!);
  return { parts, triangles, box, origin: new Vector3(), clips: [] };
}

/** A copy with just those attributes that all have, so that they can become one. */
function alike(geometry: BufferGeometry): BufferGeometry {
  const made = new BufferGeometry();
  const count = geometry.getAttribute("position").count;
  for (const [name, width] of [
    ["position", 3],
    ["normal", 3],
    ["uv", 2],
  ] as const) {
    const from = geometry.getAttribute(name);
    const array = new Float32Array(width * count);
    for (let v = 0; from && v < count; v++)
      for (let k = 0; k < width; k++) array[width * v + k] = from.getComponent(v, k);
    made.setAttribute(name, new BufferAttribute(array, width));
  }
  made.setIndex(geometry.index ? [...geometry.index.array] : Array.from({ length: count }, (_, v) => v));
  return made;
}
