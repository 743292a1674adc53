"use client";
/** The basket: the scene's props and mixes as pictures, which can be dragged onto the strip to swap; and its surfaces. */
import { sizeOf } from "@/core/mesh";
import { PanelRightClose, PanelRightOpen } from "lucide-react";
import { useRef, type ReactNode } from "react";
import { propsIn } from "@/core/place";
import { preparedBounds, type Prop } from "@/core/scene";
import { useScene } from "@/store";
import { bringStartBasket, SCENE_FILES } from "../assets";
import { Button, Choose, FilesInput, IconButton, Segmented } from "../kit";
import { addMix, openAssembly, selectMix, selectProp, useSession } from "../state";
import { MixPicture, PropPicture } from "./PropPicture";
import { SurfaceList } from "./SurfaceList";

/** The id of the field by which props are brought in, for whoever asks for it from elsewhere. */
export const BRING_IN = "bring-in";

/** The kind under which a dragged prop's id travels. */
export const PROP_DRAG = "application/x-clothesline-prop";

export function Basket({ onFiles }: { onFiles: (files: File[]) => void }) {
  const props = useScene((scene) => scene.props.length);
  const surfaces = useScene((scene) => scene.surfaces.length);
  const shows = useSession((session) => session.basketShows);
  const folded = useSession((session) => session.basketFolded);
  const counted = shows === "props" ? count(props, "prop") : count(surfaces, "surface");
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
        <span className="font-normal text-ink-5">{counted}</span>
        <IconButton label="Fold the basket" className="-mr-1.5" onClick={fold}>
          <PanelRightClose size={14} />
        </IconButton>
      </h2>
      <Segmented
        label="The basket shows"
        value={shows}
        choices={{ props: "Props", surfaces: "Surfaces" }}
        onChange={(basketShows) => useSession.setState({ basketShows })}
      />
      {shows === "surfaces" ? <SurfaceList onFiles={onFiles} /> : <PropList onFiles={onFiles} />}
    </aside>
  );
}

function PropList({ onFiles }: { onFiles: (files: File[]) => void }) {
  const props = useScene((scene) => scene.props);
  const mixes = useScene((scene) => scene.mixes);
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <ul className="-mx-1.5 grid min-h-0 content-start gap-0.5 overflow-y-auto py-1">
        {mixes.map((mix) => (
          <BasketItem key={mix.id} id={mix.id} name={mix.name} facts={`mix of ${mix.props.length}`} mix>
            <MixPicture mix={mix} size={46} />
          </BasketItem>
        ))}
        {props.map((prop) => (
          <BasketItem
            key={prop.id}
            id={prop.id}
            name={prop.name}
            facts={prop.assembly ? "assembly" : sizeText(prop)}
            onOpen={prop.assembly ? () => openAssembly(prop.id) : undefined}
          >
            <PropPicture prop={prop} size={46} />
          </BasketItem>
        ))}
      </ul>
      {props.length === 0 && (
        <>
          <p className="py-3 text-xs leading-relaxed text-ink-6">
            Drop a file with a mesh anywhere on this screen, and it is here to be repeated: GLB, glTF, OBJ, STL or PLY.
            An SVG drawing becomes lines.
          </p>
          <Button className="w-full shrink-0" onClick={() => void bringStartBasket()}>
            The regatta&apos;s props
          </Button>
        </>
      )}
      <Button look="dashed" className="mt-2 w-full shrink-0" onClick={() => input.current?.click()}>
        Add props…
      </Button>
      {props.length > 1 && (
        <Choose
          label="Make a mix that begins with"
          choices={props.map((prop) => ({
            id: prop.id,
            label: prop.name,
            picture: <PropPicture prop={prop} size={22} />,
          }))}
          onChoose={(prop) => addMix([prop])}
          className="mt-1.5 h-8 w-full shrink-0 rounded-lg border border-dashed border-linen-4 hover:bg-linen-1"
        >
          Make a mix…
        </Choose>
      )}
      <FilesInput input={input} id={BRING_IN} accept={SCENE_FILES} testId="prop-files" onFiles={onFiles} />
    </>
  );
}

const count = (n: number, what: string): string => `${n} ${n === 1 ? what : `${what}s`}`;

/** The two greatest of its dimensions, the greater first. */
function sizeText(prop: Prop): string {
  const [first, second] = sizeOf(preparedBounds(prop)).sort((a, b) => b - a);
  const [scale, unit] = first < 0.1 ? [1000, "mm"] : [1, "m"];
  const figures = (metres: number) => String(Number((metres * scale).toPrecision(3)));
  return `${figures(first)} × ${figures(second)} ${unit}`;
}

interface BasketItemProps {
  id: string;
  name: string;
  facts: string;
  mix?: boolean;
  onOpen?: () => void;
  children: ReactNode;
}

function BasketItem({ id, name, facts, mix = false, onOpen, children }: BasketItemProps) {
  const chosen = useSession(({ focus }) => (focus.kind === "prop" || focus.kind === "mix") && focus.id === id);
  const used = useScene((scene) => {
    const dressing = scene.dressings.find((d) => d.id === useSession.getState().dressing);
    return dressing !== undefined && propsIn(dressing.what).includes(id);
  });
  return (
    <li>
      <button
        type="button"
        draggable
        onDragStart={(event) => {
          event.dataTransfer.setData(PROP_DRAG, id);
          event.dataTransfer.effectAllowed = "copy";
        }}
        onClick={() => (mix ? selectMix : selectProp)(id)}
        onDoubleClick={onOpen}
        className={`grid w-full grid-cols-[46px_1fr] items-center gap-2.5 rounded-[9px] p-1.5 text-left hover:bg-linen-1 ${chosen ? "bg-sea-soft" : used ? "bg-linen-1" : ""}`}
      >
        <span className="rounded-lg bg-linear-to-b from-mat-0 to-mat-1">{children}</span>
        <span className="min-w-0">
          <span className="block truncate" title={name}>
            {name}
          </span>
          <span className="block font-mono text-[11px] text-ink-6">{facts}</span>
        </span>
      </button>
    </li>
  );
}
