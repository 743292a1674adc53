/** `manifold-3d` exports itself to `import` alone, which the test runner's `require` is not. */
// eslint-disable-next-line @typescript-eslint/no-require-imports
module.exports = require("../node_modules/manifold-3d/manifold.js").default;
