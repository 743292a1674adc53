import { Color, DoubleSide, MeshBasicMaterial, MeshLambertMaterial, MeshStandardMaterial, Texture } from "three";
import { asDrawn, isSoftware, plainly } from "./fineness";

test("what is drawn plainly keeps its colours, pictures and sides, and is made once", () => {
  const [map, emissiveMap] = [new Texture(), new Texture()];
  const looks = {
    color: new Color("#123456"),
    map,
    emissiveMap,
    side: DoubleSide,
    transparent: true,
    opacity: 0.4,
  } as const;
  const more = { alphaTest: 0.3, vertexColors: true, emissive: new Color("#654321"), emissiveIntensity: 2 } as const;
  const fine = new MeshStandardMaterial({ ...looks, ...more, depthWrite: false, flatShading: true, roughness: 0.2 });
  const plain = plainly(fine);
  expect(plain).toBeInstanceOf(MeshLambertMaterial);
  expect(plain).toMatchObject({ ...looks, ...more, depthWrite: false, flatShading: true });
  expect(plainly(fine)).toBe(plain);
  const unlit = new MeshBasicMaterial();
  expect(asDrawn([fine, unlit], true)).toEqual([plain, unlit]);
  expect(asDrawn(fine, false)).toBe(fine);
});

test("what draws without graphics hardware is told by its name", () => {
  const names = ["ANGLE (Google, Vulkan 1.3.0 (SwiftShader Device (Subzero)))", "llvmpipe (LLVM 15.0.6, 256 bits)"];
  expect(names.map(isSoftware)).toEqual([true, true]);
  expect(["ANGLE (NVIDIA, Vulkan 1.3)", "Apple M2", "Mesa Intel(R) UHD Graphics"].some(isSoftware)).toBe(false);
});
