import type { NextConfig } from "next";

/** Cross-origin isolation gives workers shared memory and exact timers; nothing is loaded from elsewhere. */
const isolation = [
  { key: "Cross-Origin-Opener-Policy", value: "same-origin" },
  { key: "Cross-Origin-Embedder-Policy", value: "require-corp" },
  { key: "Cross-Origin-Resource-Policy", value: "same-origin" },
  { key: "Permissions-Policy", value: "camera=(), microphone=(), geolocation=(), payment=(), usb=()" },
  { key: "X-Content-Type-Options", value: "nosniff" },
  { key: "Referrer-Policy", value: "no-referrer" },
];

/** Nothing may run in it, and no page may show it. Workers are no pages: what they may do they are told here. */
const NOTHING =
  "default-src 'none'; script-src 'self' 'wasm-unsafe-eval' blob:; connect-src 'self' blob: data:; worker-src 'self' blob:; frame-ancestors 'none'";
const NO_FILES = "./src/core/files/gltf/no-files.ts";
const NO_PIXELS = "./src/core/files/gltf/no-pixels.ts";

const config: NextConfig = {
  reactStrictMode: true,
  devIndicators: false,
  poweredByHeader: false,
  // `npm test` checks types before it builds.
  typescript: { ignoreBuildErrors: true },
  // Draco's decoder asks for files only where there are some.
  serverExternalPackages: ["draco3dgltf"],
  turbopack: {
    resolveAlias: {
      fs: { browser: NO_FILES },
      path: { browser: NO_FILES },
      // Pictures' pixels, which only what is not used here would work on.
      ndarray: { browser: NO_PIXELS },
      "ndarray-lanczos": { browser: NO_PIXELS },
      "ndarray-pixels": { browser: NO_PIXELS },
    },
  },
  headers: async () => [
    { source: "/:path*", headers: isolation },
    // What is no page needs nothing at all; pages get theirs in `src/proxy.ts`.
    { source: "/(api|_next)/:path*", headers: [{ key: "Content-Security-Policy", value: NOTHING }] },
  ],
};

export default config;
