import { chromiumPath } from "../scripts/ensure.mjs";

/** How Debian's Chromium is started, for tests and screenshots alike. */
export const SCREEN = { width: 1280, height: 800 };

export const LAUNCH = {
  executablePath: chromiumPath() ?? "chromium",
  args: [
    "--no-sandbox",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--use-gl=angle",
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
    "--ignore-gpu-blocklist",
  ],
};

/**
 * For what is about more than time: pages are put together by the processor, which is quicker than by graphics that it plays,
 * and edges are not smoothed.
 */
export const LAUNCH_QUICK = {
  ...LAUNCH,
  args: [...LAUNCH.args, "--disable-gpu-compositing", "--webgl-antialiasing-mode=none"],
};
