/**
 * The structure of the project, type imports included: layers in one direction, core ← engine, store, cli ← ui ← app; in the
 * core each folder above those that it is made of; no circles, neither of files nor of folders.
 */
const only = (name, from, to) => ({
  name,
  severity: "error",
  from: { path: from },
  to: { path: "^(src|tests|bench|scripts)/", pathNot: to },
});

/** For each folder of the core the others that it may import from. */
const CORE = {
  math: [],
  graph: [],
  schema: ["math"],
  tie: ["math", "schema"],
  image: ["schema"],
  course: ["schema"],
  line: ["math", "schema", "course", "tie"],
  rig: ["math"],
  mesh: ["math", "schema", "rig"],
  made: ["math", "schema", "line", "mesh"],
  solid: ["math", "line", "mesh", "made"],
  lay: ["math", "schema", "line", "mesh"],
  host: ["math", "line", "mesh"],
  layout: ["schema"],
  place: ["math", "graph", "schema", "image", "course", "line", "mesh", "host", "layout", "tie"],
  movers: ["math", "schema", "rig", "mesh", "place"],
  check: ["math", "graph", "schema", "line", "mesh", "host", "place"],
  scene: ["math", "schema", "course", "line", "mesh", "made", "place", "movers", "tie"],
  files: ["math", "schema", "image", "rig", "tie", "line", "mesh", "solid", "place", "movers", "scene"],
};
const TESTS = "(\\.test|/testing|/fuzz/[a-z]+)\\.tsx?$";

module.exports = {
  forbidden: [
    ...Object.entries(CORE).map(([folder, below]) => ({
      name: `core-${folder}-imports-what-is-below-it`,
      severity: "error",
      from: { path: `^src/core/${folder}/`, pathNot: TESTS },
      to: { path: "^src/", pathNot: [folder, ...below].map((one) => `^src/core/${one}/`) },
    })),
    {
      name: "core-folders-have-an-index",
      comment: "Nobody imports past another folder's index; tests may use what it keeps for them.",
      severity: "error",
      from: { path: "^src/(core/[^/]+|[^/]+)/", pathNot: TESTS },
      to: { path: "^src/core/[^/]+/.", pathNot: ["^src/$1/", "^src/core/[^/]+/index\\.ts$"] },
    },
    {
      name: "interface-folders-have-an-index",
      comment: "The same for the folders of the interface; workers are their own entries.",
      severity: "error",
      from: { path: "^src/(ui/[^/]+|app)/", pathNot: TESTS },
      to: { path: "^src/ui/[^/]+/.", pathNot: ["^src/$1/", "^src/ui/[^/]+/index\\.ts$"] },
    },
    only("core-imports-only-core", "^src/core/(?!.*\\.test\\.ts$)", "^src/core/"),
    only("engine-imports-core", "^src/engine/", "^src/(core|engine)/"),
    only("store-imports-core", "^src/store/", "^src/(core|store)/"),
    only("demo-imports-core", "^src/demo/(?!.*\\.test\\.ts$)", "^src/(core|demo)/"),
    only("cli-imports-core-and-engine", "^src/cli/", "^src/(core|engine|demo|cli)/"),
    only("ui-imports-all-but-app", "^src/ui/", "^src/(core|engine|store|demo|ui)/"),
    {
      name: "core-and-engine-have-no-interface",
      severity: "error",
      from: { path: "^src/(core|engine)/" },
      to: { path: "node_modules/(react|react-dom|next|@react-three|zustand|dexie)/" },
    },
    {
      name: "core-has-no-rendering",
      severity: "error",
      from: { path: "^src/core/", pathNot: "(\\.test|/mesh/(ray-tree|body|centred|hull))\\.ts$" },
      to: { path: "node_modules/(three|comlink)/" },
    },
    { name: "no-circles", severity: "error", from: {}, to: { circular: true } },
    {
      name: "no-circles-of-folders",
      severity: "error",
      scope: "folder",
      from: { path: "^src/" },
      to: { circular: true },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "^\\.next|(\\.test|/testing|/fuzz/[a-z]+)\\.tsx?$" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.json" },
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "require", "node", "default", "types"],
    },
  },
};
