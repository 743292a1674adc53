"use client";
/** The basket: the scene's props as pictures with their size. They can be dragged onto the strip to swap. */
import { PanelRightClose, PanelRightOpen } from "lucide-react";
import { useRef } from "react";
import { propsIn, sizeOf } from "@/core/place";
import type { Prop } from "@/core/scene";
import { useScene } from "@/store";
import { Button, IconButton } from "../kit";
import { selectProp, useSession } from "../state/session";
import { PropPicture } from "./PropPicture";

/** The kind under which a dragged prop's id travels. */
export const PROP_DRAG = "application/x-clothesline-prop";

export function Basket({ onFiles }: { onFiles: (files: File[]) => void }) {
  const props = useScene((scene) => scene.props);
  const folded = useSession((session) => session.basketFolded);
  const input = useRef<HTMLInputElement>(null);
  const fold = () => useSession.setState({ basketFolded: !folded });
  if (folded) {
    return (
      <aside aria-label="Basket" className="h-full border-l border-linen-2 bg-linen-0 p-1">
        <IconButton label="Unfold the basket" onClick={fold}>
          <PanelRightOpen size={15} />
        </IconButton>
      </aside>
    );
  }
  return (
    <aside aria-label="Basket" className="flex h-full min-h-0 flex-col border-l border-linen-2 bg-linen-0 px-3 py-2">
      <h2 className="flex items-center gap-2 text-xs font-semibold">
        <span className="grow">Basket</span>
        <span className="font-normal text-ink-5">
          {props.length} {props.length === 1 ? "prop" : "props"}
        </span>
        <IconButton label="Fold the basket" className="-mr-1.5" onClick={fold}>
          <PanelRightClose size={14} />
        </IconButton>
      </h2>
      <ul className="-mx-1.5 grid min-h-0 gap-0.5 overflow-y-auto py-1">
        {props.map((prop) => (
          <BasketItem key={prop.id} prop={prop} />
        ))}
      </ul>
      {props.length === 0 && (
        <p className="py-3 text-xs leading-relaxed text-ink-6">
          Drop a GLB file anywhere on this screen, and it is here to be repeated.
        </p>
      )}
      <Button look="dashed" className="mt-2 w-full shrink-0" onClick={() => input.current?.click()}>
        Add props…
      </Button>
      <input
        ref={input}
        type="file"
        accept=".glb,model/gltf-binary"
        multiple
        hidden
        data-testid="prop-files"
        onChange={(event) => {
          onFiles([...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
    </aside>
  );
}

function BasketItem({ prop }: { prop: Prop }) {
  const chosen = useSession((session) => session.focus.kind === "prop" && session.focus.id === prop.id);
  const [breadth, height] = sizeOf(prop.bounds);
  const used = useScene((scene) => {
    const dressing = scene.dressings.find((d) => d.id === useSession.getState().dressing);
    return dressing !== undefined && propsIn(dressing.what).includes(prop.id);
  });
  return (
    <li>
      <button
        type="button"
        draggable
        onDragStart={(event) => {
          event.dataTransfer.setData(PROP_DRAG, prop.id);
          event.dataTransfer.effectAllowed = "copy";
        }}
        onClick={() => selectProp(prop.id)}
        className={`grid w-full grid-cols-[46px_1fr] items-center gap-2.5 rounded-[9px] p-1.5 text-left hover:bg-linen-1 ${chosen ? "bg-sea-soft" : used ? "bg-linen-1" : ""}`}
      >
        <span className="rounded-lg bg-linear-to-b from-[#e9eeec] to-[#f3ecdf]">
          <PropPicture prop={prop} size={46} />
        </span>
        <span className="min-w-0">
          <span className="block truncate" title={prop.name}>
            {prop.name}
          </span>
          <span className="block font-mono text-[11px] text-ink-6">
            {breadth.toFixed(2)} × {height.toFixed(2)}
          </span>
        </span>
      </button>
    </li>
  );
}
