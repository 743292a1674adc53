"use client";
import dynamic from "next/dynamic";
import { use } from "react";

/** The table lives in the browser alone: it needs WebGL, workers and the browser's own storage. */
const Table = dynamic(() => import("@/ui/table").then((module) => module.Table), {
  ssr: false,
  loading: () => <main className="grid h-screen place-items-center text-ink-6">Opening…</main>,
});

export default function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = use(params);
  return <Table key={id} id={decodeURIComponent(id)} />;
}
