import { Offline } from "@/ui/scenes";
import type { Metadata } from "next";
import type { ReactNode } from "react";
import "./globals.css";

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
