/** `manifold-3d` exports itself to `import` alone, which the test runner's `require` is not. */
module.exports = require("./node_modules/manifold-3d/manifold.js").default;
