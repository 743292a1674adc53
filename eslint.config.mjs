import nextVitals from "eslint-config-next/core-web-vitals";
import nextTypescript from "eslint-config-next/typescript";

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
  { files: ["src/cli/**", "scripts/**", "bench/**"], rules: { "no-console": "off" } },
];

export default config;
