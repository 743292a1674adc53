"use client";
/** All scenes as cards. */
import { Ellipsis, SunMoon } from "lucide-react";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";
import { toast, Toaster } from "sonner";
import { DEMO_ID, DEMO_NAME } from "@/demo";
import { deleteScene, duplicateScene, listScenes, newScene, renameScene, type SceneCard } from "@/store";
import { openProject } from "../assets";
import { Button, chooseTable, Choose, NameField, tableChoices, type TableChoice } from "../kit";
import { ago, PegMark } from "../rail";
import { ensureDemo } from "./demo";

/** Remembers that the demo scene was deleted, so that it does not come back by itself. */
const DEMO_DELETED = "demo-deleted";

/** A scene as it is listed; one that is yet to be made has not been changed at any time. */
type Listed = Omit<SceneCard, "modified"> & { modified: number | null };

interface List {
  cards: readonly Listed[];
  /** When they were asked for. */
  now: number;
}

async function listed(): Promise<List> {
  const cards = await listScenes();
  const hasDemo = localStorage.getItem(DEMO_DELETED) !== null || cards.some(({ id }) => id === DEMO_ID);
  const demo = { id: DEMO_ID, name: DEMO_NAME, modified: null, picture: null };
  return { cards: hasDemo ? cards : [...cards, demo], now: Date.now() };
}

export function Scenes() {
  const router = useRouter();
  const [list, setList] = useState<List | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);

  const refresh = () => listed().then(setList);
  useEffect(() => void listed().then(setList, (error: unknown) => setFailure(reasonOf(error))), []);

  const open = (id: string) => router.push(`/scene/${id}`);
  const bringDemo = async () => {
    localStorage.removeItem(DEMO_DELETED);
    await refresh();
  };
  const begin = () =>
    newScene().then(open, (error: unknown) => toast.error(`The scene cannot be kept: ${reasonOf(error)}`));
  const openFile = async (file: File) => {
    try {
      open(await openProject(file));
    } catch (error) {
      toast.error(reasonOf(error), { duration: 12_000 });
    }
  };
  const remove = async (card: Listed) => {
    const restore = await deleteScene(card.id);
    if (card.id === DEMO_ID) localStorage.setItem(DEMO_DELETED, "yes");
    await refresh();
    const undo = async () => {
      await restore();
      if (card.id === DEMO_ID) localStorage.removeItem(DEMO_DELETED);
      await refresh();
    };
    toast(`Deleted “${card.name}”.`, { duration: 10_000, action: { label: "Undo", onClick: () => void undo() } });
  };

  return (
    <main
      className="min-h-screen"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (file) void openFile(file);
      }}
    >
      <header className="relative flex h-16 items-center gap-3 border-b border-linen-2 bg-linen-0 px-8">
        <PegMark />
        <h1 className="grow text-[17px] font-semibold tracking-tight">Clothesline</h1>
        <Choose
          label="Colours of the table"
          choices={tableChoices()}
          onChoose={(choice) => chooseTable(choice.slice(6) as TableChoice)}
          className="grid size-8 place-items-center rounded-lg text-ink-6 hover:bg-linen-1"
        >
          <SunMoon size={16} />
        </Choose>
        <Button onClick={() => input.current?.click()}>Open file…</Button>
        <Button look="main" onClick={() => void begin()}>
          New scene
        </Button>
        <input
          ref={input}
          type="file"
          accept=".zip,application/zip"
          hidden
          data-testid="project-file"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) void openFile(file);
            event.target.value = "";
          }}
        />
      </header>
      <div className="mx-auto max-w-[1120px] px-8 py-8">
        <p className="mb-6 max-w-3xl text-[15px] leading-relaxed text-ink-6">
          String props along lines and round shapes, stand them on ground, spread them over surfaces and fill spaces
          with them: placed as by a careful hand, and editable for ever.
          <br />
          Scenes are kept in this browser; a project file takes one elsewhere, and what is placed leaves as glTF or
          tables.
        </p>
        {failure && (
          <p role="alert" className="mb-6 rounded-[10px] bg-madder-soft px-4 py-3 text-madder">
            Scenes cannot be kept in this browser: {failure}
          </p>
        )}
        <ul aria-label="Scenes" className="grid grid-cols-3 gap-6">
          {list?.cards.map((card) => (
            <Card
              key={card.id}
              card={card}
              now={list.now}
              onRemove={() => void remove(card)}
              onChanged={() => void refresh()}
            />
          ))}
          {list && !list.cards.some((card) => card.id === DEMO_ID) && (
            <li>
              <button
                type="button"
                onClick={() => void bringDemo()}
                className="h-full min-h-48 w-full rounded-[10px] border border-dashed border-linen-4 text-ink-6 hover:bg-linen-0"
              >
                Bring back the demo scene
              </button>
            </li>
          )}
        </ul>
      </div>
      <Toaster position="bottom-center" toastOptions={{ className: "font-sans" }} />
    </main>
  );
}

const reasonOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/** When a scene was changed last. */
function Changed({ at, now }: { at: number | null; now: number }) {
  if (at === null) return <p className="text-xs text-ink-6">A harbour to look round in and to change</p>;
  const day = new Date(at);
  return (
    <p className="text-xs text-ink-6" title={day.toLocaleString("en")}>
      {day.toLocaleDateString("en", { day: "numeric", month: "long", year: "numeric" })} · {ago(now - at)}
    </p>
  );
}

interface CardProps {
  card: Listed;
  now: number;
  onRemove: () => void;
  onChanged: () => void;
}

function Card({ card, now, onRemove, onChanged }: CardProps) {
  const picture = card.picture ?? (card.id === DEMO_ID ? "/gullhaven.jpg" : null);
  const act = async (action: string) => {
    if (action === "delete") return onRemove();
    await ensureDemo(card.id);
    await duplicateScene(card.id);
    onChanged();
  };
  const rename = async (name: string) => {
    await ensureDemo(card.id);
    await renameScene(card.id, name);
    onChanged();
  };
  return (
    <li className="group relative rounded-[10px] border border-linen-2 bg-linen-0 hover:border-linen-4">
      <span aria-hidden className="absolute -inset-x-3 -top-1 h-[1.5px] bg-[#a8906a]" />
      <span
        aria-hidden
        className="absolute -top-2 left-1/2 z-10 -ml-[3px] h-4 w-1.5 rounded-sm bg-wood shadow-[inset_-1px_0_#8f6a3a]"
      />
      <Link
        href={`/scene/${card.id}`}
        aria-label={`Open ${card.name}`}
        className="block overflow-hidden rounded-t-[9px]"
      >
        {picture ? (
          // Pictures are data made in this browser.
          // oxlint-disable-next-line nextjs/no-img-element
          <img src={picture} alt="" className="aspect-[16/10] w-full object-cover" />
        ) : (
          <div className="grid aspect-[16/10] w-full place-items-center bg-linear-to-b from-mat-0 to-mat-1 text-xs text-ink-6">
            A new scene
          </div>
        )}
      </Link>
      {card.id === DEMO_ID && (
        <span className="absolute right-2 top-2 rounded-md bg-linen-0/90 px-2 py-0.5 text-xs font-medium text-ink-6">
          Example
        </span>
      )}
      <div className="flex items-center gap-2 px-3.5 py-2.5">
        <div className="min-w-0 grow">
          <NameField
            label={`Name of ${card.name}`}
            value={card.name}
            onChange={(name) => void rename(name)}
            className="w-full font-semibold"
          />
          <Changed at={card.modified} now={now} />
        </div>
        <Choose
          label={`More for ${card.name}`}
          choices={[
            { id: "duplicate", label: "Duplicate" },
            { id: "delete", label: "Delete", danger: true },
          ]}
          onChoose={(action) => void act(action)}
          className="grid size-7 place-items-center rounded-lg text-ink-6 hover:bg-linen-1"
        >
          <Ellipsis size={15} />
        </Choose>
      </div>
    </li>
  );
}
