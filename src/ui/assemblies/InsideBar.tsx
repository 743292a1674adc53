"use client";
/** The bar that says which assembly is open, within which others, and leads back. */
import { ArrowLeft, ChevronRight } from "lucide-react";
import { Fragment } from "react";
import { useSceneStore } from "@/store";
import { Button } from "../kit";
import { leaveAssembly, usesSaid } from "../state";

export function InsideBar() {
  const opened = useSceneStore((store) => store.opened);
  const scene = useSceneStore((store) => store.history.scene);
  if (opened.length === 0) return null;
  const nameOf = (id: string) => scene.props.find((prop) => prop.id === id)?.name ?? "";
  const said = usesSaid(opened.at(-1)!);
  return (
    <nav
      aria-label="Open assembly"
      className="flex h-9 min-w-0 items-center gap-1.5 border-b border-linen-2 bg-ochre-soft px-4 text-[12.5px] text-ink-6"
    >
      <Button className="h-6.5! shrink-0 text-xs" onClick={() => leaveAssembly(opened.length - 1)}>
        <ArrowLeft size={13} className="-ml-0.5 mr-1 inline" />
        Back
      </Button>
      <button
        type="button"
        className="ml-1.5 truncate border-b border-transparent hover:border-ink-5"
        onClick={() => leaveAssembly(0)}
      >
        {scene.name}
      </button>
      {opened.map((id, i) => (
        <Fragment key={id}>
          <ChevronRight size={13} aria-hidden className="shrink-0 text-ink-5" />
          {i === opened.length - 1 ? (
            <b className="shrink-0 font-semibold text-ink-9" aria-current="page">
              {nameOf(id)}
            </b>
          ) : (
            <button
              type="button"
              className="truncate border-b border-transparent hover:border-ink-5"
              onClick={() => leaveAssembly(i + 1)}
            >
              {nameOf(id)}
            </button>
          )}
        </Fragment>
      ))}
      <span className="ml-auto truncate pl-4 text-xs">
        {said ? `Used in ${said}: what changes here changes there.` : "Not used anywhere yet."}
      </span>
    </nav>
  );
}
