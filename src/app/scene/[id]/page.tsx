"use client";
import dynamic from "next/dynamic";
import { usePathname } from "next/navigation";

/** The table lives in the browser alone: it needs WebGL, workers and the browser's own storage. */
const Table = dynamic(() => import("@/ui/table").then((module) => module.Table), {
  ssr: false,
  loading: () => <main className="grid h-screen place-items-center text-ink-6">Opening…</main>,
});

/** Which scene it is stands in the address alone, so that one page kept for offline use serves them all. */
export default function Page() {
  const id = decodeURIComponent(usePathname().split("/")[2] ?? "");
  return <Table key={id} id={id} />;
}
