import { TableColours } from "@/ui/kit";
import { Offline } from "@/ui/scenes";
import type { Metadata } from "next";
import type { ReactNode } from "react";
import "./globals.css";

/** Each page carries the number by which its scripts are known, so none is made ahead. */
export const dynamic = "force-dynamic";

export const metadata: Metadata = {
  title: "Clothesline",
  description:
    "Props along lines, on ground, over surfaces and inside spaces: placed as by a careful hand and editable for ever.",
};

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        {/* Before anything is drawn, so that no light table flashes up in the dark. */}
        {/* eslint-disable-next-line @next/next/no-sync-scripts */}
        <script src="/table.js" />
      </head>
      <body>
        <TableColours />
        {children}
        <Offline />
      </body>
    </html>
  );
}
