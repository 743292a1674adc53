"use client";
/** Making a dressing: which prop along which line, or over which surface. */
import { useState } from "react";
import { useScene } from "@/store";
import { AnyPicture } from "../basket";
import { Button, Modal } from "../kit";
import { dress, useSession } from "../state";
import { spreadOver } from "../steps";
import { startDrawing } from "../view";

export function DressDialog() {
  const props = useScene((scene) => scene.props);
  const mixes = useScene((scene) => scene.mixes);
  const lines = useScene((scene) => scene.lines);
  const surfaces = useScene((scene) => scene.surfaces);
  const dressings = useScene((scene) => scene.dressings);
  const [prop, setProp] = useState<string | null>(props.at(-1)?.id ?? null);
  const undressed = lines.find((l) => !dressings.some((d) => d.where.lines.includes(l.id)));
  const [line, setLine] = useState<string | null>(undressed?.id ?? null);
  const [surface, setSurface] = useState<string | null>(null);
  const close = () => useSession.setState({ dialog: null });
  const choose = (nextLine: string | null, nextSurface: string | null) => {
    setLine(nextLine);
    setSurface(nextSurface);
  };
  const make = () => {
    close();
    if (!prop) return;
    if (surface) spreadOver(surface, prop);
    else if (line) dress(line, prop);
    else {
      useSession.setState({ drawProp: prop });
      startDrawing();
    }
  };
  const row = (chosen: boolean) =>
    `flex w-full items-center gap-2 rounded-lg px-2 py-1 text-left text-[12.5px] ${chosen ? "bg-sea-soft text-sea font-medium" : "hover:bg-linen-1"}`;
  return (
    <Modal title="Dress a line or a surface" onClose={close}>
      {props.length === 0 ? (
        <p className="text-ink-6">The basket is empty. Drop a mesh&apos;s file anywhere on the screen first.</p>
      ) : (
        <div className="grid grid-cols-2 gap-4">
          <section aria-label="Prop">
            <h3 className="mb-1 text-xs font-semibold">With this prop</h3>
            <div className="max-h-72 overflow-y-auto">
              {[...mixes, ...props].map((p) => (
                <button
                  key={p.id}
                  type="button"
                  aria-pressed={prop === p.id}
                  className={row(prop === p.id)}
                  onClick={() => setProp(p.id)}
                >
                  <AnyPicture id={p.id} size={28} />
                  <span className="truncate">{p.name}</span>
                </button>
              ))}
            </div>
          </section>
          <section aria-label="Line">
            <h3 className="mb-1 text-xs font-semibold">Along this line</h3>
            <div className="max-h-72 overflow-y-auto">
              <button
                type="button"
                aria-pressed={line === null && surface === null}
                className={row(line === null && surface === null)}
                onClick={() => choose(null, null)}
              >
                A new line, drawn now
              </button>
              {lines.map((l) => (
                <button
                  key={l.id}
                  type="button"
                  aria-pressed={line === l.id}
                  className={row(line === l.id)}
                  onClick={() => choose(l.id, null)}
                >
                  <span className="truncate">{l.name}</span>
                </button>
              ))}
              {surfaces.length > 0 && <h3 className="mb-1 mt-2 text-xs font-semibold">Or over this surface</h3>}
              {surfaces.map((s) => (
                <button
                  key={s.id}
                  type="button"
                  aria-pressed={surface === s.id}
                  className={row(surface === s.id)}
                  onClick={() => choose(null, s.id)}
                >
                  <span className="truncate">{s.name}</span>
                </button>
              ))}
            </div>
          </section>
        </div>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={close}>Cancel</Button>
        <Button look="main" disabled={!prop} onClick={make}>
          {line || surface ? "Dress" : "Draw and dress"}
        </Button>
      </div>
    </Modal>
  );
}
