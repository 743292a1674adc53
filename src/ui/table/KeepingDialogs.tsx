"use client";
/** What is asked when a scene cannot simply be kept: another tab changed it, it is gone, or a version of it was put aside. */
import { useRouter } from "next/navigation";
import { useState } from "react";
import { addScene, assetsFor, useSceneStore } from "@/store";
import { Button, Modal } from "../kit";

export function KeepingDialogs() {
  const kind = useSceneStore((store) => store.save.kind);
  const aside = useSceneStore((store) => store.aside);
  if (kind === "conflict") return <ConflictDialog />;
  if (kind === "gone") return <GoneDialog />;
  return aside ? <AsideDialog time={aside.time} /> : null;
}

function ConflictDialog() {
  const router = useRouter();
  const { history, takeTheirs, dropAside } = useSceneStore.getState();
  const keepMine = async () => {
    const id = await addScene(history.scene, await assetsFor(history.scene));
    await dropAside();
    router.push(`/scene/${id}`);
  };
  return (
    <Modal title="Changed in another tab" onClose={() => undefined}>
      <p className="mb-4 text-ink-6">
        This scene was changed and saved in another tab. Nothing of yours is lost: it is put aside, also if this tab is
        closed. Nothing of theirs was written over.
      </p>
      <div className="flex justify-end gap-2">
        <Button onClick={() => void takeTheirs()}>Take what the other tab saved</Button>
        <Button look="main" onClick={() => void keepMine()}>
          Keep mine as a scene of its own
        </Button>
      </div>
    </Modal>
  );
}

function GoneDialog() {
  const router = useRouter();
  const [trouble, setTrouble] = useState("");
  const keepAgain = () =>
    useSceneStore
      .getState()
      .keepAgain()
      .catch(() => setTrouble("It could not be saved: the browser's storage does not answer. Try again."));
  return (
    <Modal title="This scene was deleted" onClose={() => undefined}>
      <p className="mb-4 text-ink-6">
        It was deleted in another tab, or with what the browser had stored. It is all still here on your table.
      </p>
      {trouble && (
        <p role="alert" className="mb-4 text-madder">
          {trouble}
        </p>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={() => router.push("/")}>Let it go</Button>
        <Button look="main" onClick={() => void keepAgain()}>
          Save it again
        </Button>
      </div>
    </Modal>
  );
}

function AsideDialog({ time }: { time: number }) {
  const router = useRouter();
  const { aside, dropAside } = useSceneStore.getState();
  const open = async () => {
    const { scene } = aside!;
    const id = await addScene(scene, await assetsFor(scene));
    await dropAside();
    router.push(`/scene/${id}`);
  };
  const when = new Date(time).toLocaleTimeString("en", { hour: "2-digit", minute: "2-digit" });
  return (
    <Modal title="A version of yours was put aside" onClose={() => undefined}>
      <p className="mb-4 text-ink-6">
        At {when} another tab had changed this scene while you were changing it here. What the other tab saved is on the
        table; yours is kept beside it.
      </p>
      <div className="flex justify-end gap-2">
        <Button onClick={() => void dropAside()}>Let mine go</Button>
        <Button look="main" onClick={() => void open()}>
          Open mine as a scene of its own
        </Button>
      </div>
    </Modal>
  );
}
