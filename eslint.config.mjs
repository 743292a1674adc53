import nextVitals from "eslint-config-next/core-web-vitals";
import nextTypescript from "eslint-config-next/typescript";

/** What is about components alone, and compiles each file to find out: off where there are none. */
const ABOUT_COMPONENTS = Object.fromEntries(
  nextVitals
    .flatMap(({ rules = {} }) => Object.keys(rules).filter((name) => /^(react|jsx-a11y|@next)/.test(name)))
    .map((name) => [name, "off"]),
);

const config = [
  { ignores: [".next/**", ".cache/**", "node_modules/**", "next-env.d.ts", "test-results/**", "playwright-report/**"] },
  ...nextVitals,
  ...nextTypescript,
  {
    rules: {
      "no-restricted-properties": [
        "error",
        { object: "Math", property: "random", message: "Draws are keyed: use core/math/random. For ids use crypto." },
      ],
      "no-console": "error",
      eqeqeq: "error",
      "prefer-const": ["error", { destructuring: "all" }],
    },
  },
  // The compiler says so already.
  { files: ["**/*.{ts,tsx,mts}"], rules: { "@typescript-eslint/no-unused-vars": "off" } },
  {
    files: ["src/{core,engine,store,demo,cli}/**", "{bench,jest,scripts,tests}/**", "**/*.test.ts"],
    rules: ABOUT_COMPONENTS,
  },
  { files: ["src/cli/**", "scripts/**", "bench/**"], rules: { "no-console": "off" } },
];

export default config;
