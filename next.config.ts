import type { NextConfig } from "next";

/** Cross-origin isolation gives workers shared memory and exact timers; nothing is loaded from elsewhere. */
const isolation = [
  { key: "Cross-Origin-Opener-Policy", value: "same-origin" },
  { key: "Cross-Origin-Embedder-Policy", value: "require-corp" },
  { key: "X-Content-Type-Options", value: "nosniff" },
  { key: "Referrer-Policy", value: "no-referrer" },
];

const config: NextConfig = {
  reactStrictMode: true,
  devIndicators: false,
  // `npm test` checks types before it builds.
  typescript: { ignoreBuildErrors: true },
  // Draco's decoder asks for files only where there are some.
  serverExternalPackages: ["draco3dgltf"],
  turbopack: {
    resolveAlias: {
      fs: { browser: "./src/core/files/gltf/no-files.ts" },
      path: { browser: "./src/core/files/gltf/no-files.ts" },
    },
  },
  headers: async () => [{ source: "/:path*", headers: isolation }],
};

export default config;
