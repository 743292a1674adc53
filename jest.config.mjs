import { SWC } from "./jest/swc.mjs";

/** Unit tests run in Node: the core has no DOM. Packages that ship only ES modules are transformed too. */
const config = {
  testEnvironment: "node",
  roots: ["<rootDir>/src", "<rootDir>/jest"],
  // A limit for what hangs, not for what is slow: speed is for the benchmarks, and a busy machine may take its time.
  setupFiles: ["<rootDir>/jest/setup.ts"],
  setupFilesAfterEnv: ["<rootDir>/jest/expect.ts"],
  testTimeout: 180_000,
  maxWorkers: "100%",
  // Looking a global up in the runner's sandbox is slow, and kernels do it in their innermost loops.
  sandboxInjectedGlobals: [
    ...["Math", "Number", "Object", "Array", "ArrayBuffer", "Uint8Array", "Uint16Array"],
    ...["Int8Array", "Int16Array", "Int32Array", "Uint32Array", "Float32Array", "Float64Array", "BigUint64Array"],
  ],
  testMatch: ["**/*.test.ts", "**/*.test.tsx"],
  moduleNameMapper: {
    "^@/(.*)$": "<rootDir>/src/$1",
    "^manifold-3d$": "<rootDir>/jest/manifold.cjs",
  },
  transform: {
    "\\.test\\.tsx?$": "<rootDir>/jest/bundled.mjs",
    "^.+\\.(t|j|mj)sx?$": ["@swc/jest", SWC],
  },
  transformIgnorePatterns: [
    "/node_modules/(?!(@gltf-transform|fast-png|iobuffer|@noble/hashes|ndarray-pixels|property-graph|ktx-parse|earcut|meshoptimizer|three|three-mesh-bvh|manifold-3d)/)",
  ],
};

export default config;
