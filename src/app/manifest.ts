import type { MetadataRoute } from "next";

export default function manifest(): MetadataRoute.Manifest {
  return {
    name: "Clothesline",
    short_name: "Clothesline",
    description: "Props along lines, placed as by a careful hand and editable for ever.",
    start_url: "/",
    display: "standalone",
    background_color: "#fdfbf6",
    theme_color: "#fdfbf6",
    icons: [
      { src: "/icon-192.png", sizes: "192x192", type: "image/png" },
      { src: "/icon-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
      { src: "/icon-512.png", sizes: "512x512", type: "image/png" },
    ],
  };
}
