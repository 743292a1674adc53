"use client";
/** The seed board: the selected dressing with a dozen seeds, one picture each; a click takes one. */
import { useEffect, useMemo, useState } from "react";
import { fileJobs } from "@/engine/file-clients";
import { meshesWanted } from "@/engine/wanted";
import { assetsFor, useScene, useSceneStore } from "@/store";
import { drawnProps } from "../assets";
import { Button, Modal, Segmented } from "../kit";
import { editDressing, useSession } from "../state";
import { PICTURE, pictureOf, type SeenBy } from "./draw-placements";

const COUNT = 12;
const MAX_SEED = 999_999;

export function SeedBoard() {
  const id = useSession((session) => session.dressing);
  const dressing = useScene((scene) => scene.dressings.find((one) => one.id === id));
  const [first, setFirst] = useState<number | null>(null);
  const close = () => useSession.setState({ dialog: null });
  const seed = dressing?.variation.seed ?? 1;
  // The seed at hand comes first, then those that follow it; further pages go on from there.
  const [opened] = useState(seed);
  const from = first ?? opened;
  const seeds = useMemo(() => Array.from({ length: COUNT }, (_, k) => (from + k) % (MAX_SEED + 1)), [from]);
  const [through, setThrough] = useState<SeenBy>("closely");
  const { pictures, failed } = useSeedPictures(id, seeds, through);
  if (!dressing) return null;
  return (
    <Modal title={`Seeds of ${dressing.name}`} onClose={close} width="w-[900px]">
      <p className="mb-3 text-xs text-ink-6">
        The same dressing, its chances dealt anew by each seed. What is pegged stays. Choose one; undo brings the one
        before back.
      </p>
      <div className="mb-3 w-60">
        <Segmented
          label="What the pictures show"
          value={through as string}
          choices={{ closely: "All of it, closely", view: "As in the view" }}
          onChange={(next) => setThrough(next as SeenBy)}
        />
      </div>
      {failed && (
        <p role="alert" className="mb-3 rounded-lg bg-madder-soft px-2.5 py-2 text-xs text-madder">
          The pictures could not be made ({failed}). Seeds can be chosen all the same.
        </p>
      )}
      <ul className="grid grid-cols-4 gap-2.5">
        {seeds.map((one) => (
          <li key={one}>
            <button
              type="button"
              aria-pressed={one === seed}
              aria-label={`Seed ${one}`}
              onClick={() => editDressing(dressing.id, "Seed", ({ variation }) => void (variation.seed = one))}
              className={`grid w-full overflow-hidden rounded-[10px] border-2 bg-linear-to-b from-mat-0 to-mat-1 text-left ${one === seed ? "border-madder" : "border-linen-2 hover:border-sea"}`}
            >
              <span className="grid aspect-[264/150] place-items-center text-xs text-ink-6">
                {pictures.get(one) ? (
                  // The picture is made in the browser; there is nothing for an image service to do.
                  // oxlint-disable-next-line nextjs/no-img-element
                  <img
                    src={pictures.get(one)}
                    alt=""
                    width={PICTURE.width}
                    height={PICTURE.height}
                    className="w-full"
                  />
                ) : (
                  "…"
                )}
              </span>
              <span className="flex justify-between bg-linen-0 px-2 py-1 font-mono text-xs">
                {one}
                {one === seed && <span className="font-sans text-madder">chosen</span>}
              </span>
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={() => setFirst((from - COUNT + MAX_SEED + 1) % (MAX_SEED + 1))}>Those before</Button>
        <Button onClick={() => setFirst((from + COUNT) % (MAX_SEED + 1))}>Others</Button>
        <Button look="main" onClick={close}>
          Done
        </Button>
      </div>
    </Modal>
  );
}

/** The pictures of a dressing's seeds as they come, one after the other; closing the board ends the work. */
function useSeedPictures(dressing: string | null, seeds: readonly number[], through: SeenBy) {
  const [pictures, setPictures] = useState<ReadonlyMap<number, string>>(new Map());
  const [failed, setFailed] = useState<string | null>(null);
  useEffect(() => {
    let open = true;
    const work = async () => {
      const { computed: scene } = useSceneStore.getState();
      const wanted = meshesWanted(scene);
      const assets = new Map([...(await assetsFor(scene))].filter(([hash]) => wanted.has(hash)));
      for (const seed of seeds) {
        if (!open || dressing === null) return;
        const seeded = await fileJobs.placeWithSeed(scene, assets, dressing, seed);
        if (!open || !seeded) return;
        const picture = pictureOf(seeded, drawnProps(), through);
        setPictures((before) => new Map(before).set(seed, picture));
      }
    };
    work().catch((error: unknown) => open && setFailed(error instanceof Error ? error.message : String(error)));
    return () => void (open = false);
  }, [dressing, seeds, through]);
  return { pictures, failed };
}
