import { Offline } from "@/ui/scenes";
import type { Metadata } from "next";
import type { ReactNode } from "react";
import "./globals.css";

/** Each page carries the number by which its scripts are known, so none is made ahead. */
export const dynamic = "force-dynamic";

export const metadata: Metadata = {
  title: "Clothesline",
  description: "Props along lines, placed as by a careful hand and editable for ever.",
};

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        {children}
        <Offline />
      </body>
    </html>
  );
}
