/** How single modules are brought into a form that the test runner requires. */
export const SWC = {
  jsc: {
    target: "es2022",
    parser: { syntax: "typescript", tsx: true },
    // Looked up in the runner's sandbox, they take longer than the sums they stand in.
    transform: { optimizer: { globals: { vars: { NaN: "(0 / 0)", Infinity: "(1 / 0)" } } } },
  },
  module: { type: "commonjs" },
};
