/** The layers of the project, in one direction: core ← engine ← store, cli ← ui ← app. */
const only = (name, from, to) => ({
  name,
  severity: "error",
  from: { path: from },
  to: { path: "^(src|tests|bench|scripts)/", pathNot: to },
});

module.exports = {
  forbidden: [
    only("core-imports-only-core", "^src/core/", "^src/core/"),
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
      from: { path: "^src/core/", pathNot: "(\\.test|/mesh/(ray-tree|body|centred))\\.ts$" },
      to: { path: "node_modules/(three|comlink)/" },
    },
    {
      name: "no-circles",
      severity: "error",
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "^\\.next" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.json" },
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "require", "node", "default", "types"],
    },
  },
};
