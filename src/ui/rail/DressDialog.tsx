"use client";
/** Making a dressing: which prop, and where: along a line, over a surface, inside something, or loose. */
import { useState, type ReactNode } from "react";
import { kindOf, STEP_SCHEMAS, type Dressing } from "@/core/place";
import { describeChoice } from "@/core/schema";
import { useScene } from "@/store";
import { AnyPicture } from "../basket";
import { Button, Modal, Segmented } from "../kit";
import {
  beginPins,
  dress,
  dressBox,
  dressNothing,
  dressPatch,
  dressWrapped,
  makeSurface,
  useSession,
  useUsableProps,
} from "../state";
import { fillInside, patchOn, spreadOver } from "../steps";
import { cameraNow, startDrawing, startPinning } from "../view";

type Kind = Dressing["where"]["kind"];

const WHERE = describeChoice(STEP_SCHEMAS.where.shape.kind);

/** For each kind: what can be chosen besides what the scene has, and what the button says then. */
const NEW: Readonly<Record<Kind, { label: string; does: string; begin: (prop: string) => void }>> = {
  along: {
    label: "A new line, drawn now",
    does: "Draw and dress",
    begin(prop) {
      useSession.setState({ drawProp: prop });
      startDrawing();
    },
  },
  over: {
    label: "A new area, drawn now",
    does: "Draw and dress",
    begin: (prop) => startDrawing({ dressing: dressNothing("over", prop), list: "areas" }),
  },
  inside: { label: "A new box", does: "Make and fill", begin: (prop) => dressBox(prop, cameraNow.target) },
  pinned: {
    label: "Each pinned to a surface, with a click",
    does: "Begin",
    begin(prop) {
      beginPins(prop);
      startPinning();
    },
  },
  wrapped: {
    label: "A new plane, made now",
    does: "Make and dress",
    begin(prop) {
      makeSurface("bumps", cameraNow.target);
      const { focus } = useSession.getState();
      if (focus.kind === "surface") dressWrapped(focus.id, prop);
    },
  },
  patch: {
    label: "A new plane, made now",
    does: "Make and dress",
    begin(prop) {
      makeSurface("bumps", cameraNow.target);
      const { focus } = useSession.getState();
      if (focus.kind === "surface") dressPatch(focus.id, prop, [0, 0, 0]);
    },
  },
  loose: {
    label: "Each put down by hand, with Alt and a click",
    does: "Begin",
    begin: (prop) => void dressNothing("loose", prop),
  },
};

const ON_THING: Readonly<Record<Kind, (id: string, prop: string) => void>> = {
  along: dress,
  over: spreadOver,
  inside: fillInside,
  pinned: () => undefined,
  patch: patchOn,
  wrapped: dressWrapped,
  loose: () => undefined,
};

export function DressDialog() {
  const props = useUsableProps();
  const mixes = useScene((scene) => scene.mixes);
  const lines = useScene((scene) => scene.lines);
  const surfaces = useScene((scene) => scene.surfaces);
  const dressings = useScene((scene) => scene.dressings);
  const asked = useSession((session) => session.dressKind);
  const [prop, setProp] = useState<string | null>(props.at(-1)?.id ?? null);
  const [kind, setKind] = useState<Kind>(asked ?? "along");
  const undressed = lines.find((l) => !dressings.some((d) => d.where.lines.includes(l.id)));
  const [chosen, setChosen] = useState<string | null>(kindOf({ kind }).ordered ? (undressed?.id ?? null) : null);
  const close = () => useSession.setState({ dialog: null, dressKind: null });
  const things: readonly { id: string; name: string }[] = kindOf({ kind }).ordered
    ? lines
    : kindOf({ kind }).ruled
      ? surfaces
      : [];
  const make = () => {
    close();
    if (!prop) return;
    if (chosen === null) NEW[kind].begin(prop);
    else ON_THING[kind](chosen, prop);
  };
  return (
    <Modal title="Dress" onClose={close} width="w-[520px]">
      {props.length === 0 ? (
        <p className="text-ink-6">The basket is empty. Drop a mesh&apos;s file anywhere on the screen first.</p>
      ) : (
        <div className="grid gap-3">
          <Segmented
            label={WHERE.label}
            help={WHERE.help}
            value={kind as string}
            choices={{
              along: "Along a line",
              over: "Over a surface",
              inside: "Inside",
              pinned: "Pinned",
              patch: "Patch",
              wrapped: "Wrapped",
              loose: "Loose",
            }}
            onChange={(next) => {
              setKind(next as Kind);
              setChosen(null);
            }}
          />
          <div className="grid grid-cols-2 gap-4">
            <section aria-label="With which prop">
              <h3 className="mb-1 text-xs font-semibold">With this prop</h3>
              <div className="max-h-64 overflow-y-auto">
                {[...mixes, ...props].map((p) => (
                  <Row key={p.id} chosen={prop === p.id} onChoose={() => setProp(p.id)}>
                    <AnyPicture id={p.id} size={28} />
                    <span className="truncate">{p.name}</span>
                  </Row>
                ))}
              </div>
            </section>
            <section aria-label="On what">
              <h3 className="mb-1 text-xs font-semibold">{WHERE.choices[kind]}</h3>
              <div className="max-h-64 overflow-y-auto">
                <Row chosen={chosen === null} onChoose={() => setChosen(null)}>
                  {NEW[kind].label}
                </Row>
                {things.map(({ id, name }) => (
                  <Row key={id} chosen={chosen === id} onChoose={() => setChosen(id)}>
                    <span className="truncate">{name}</span>
                  </Row>
                ))}
              </div>
            </section>
          </div>
        </div>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button className="mr-auto" onClick={() => useSession.setState({ dialog: "recipes", dressKind: null })}>
          By a recipe…
        </Button>
        <Button onClick={close}>Cancel</Button>
        <Button look="main" disabled={!prop} onClick={make}>
          {chosen === null ? NEW[kind].does : "Dress"}
        </Button>
      </div>
    </Modal>
  );
}

function Row({ chosen, onChoose, children }: { chosen: boolean; onChoose: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      aria-pressed={chosen}
      className={`flex min-h-7 w-full items-center gap-2 rounded-lg px-2 py-1 text-left text-[12.5px] ${chosen ? "bg-sea-soft font-medium text-sea" : "hover:bg-linen-1"}`}
      onClick={onChoose}
    >
      {children}
    </button>
  );
}
