"use client";
/** What a tube, a shell or a solid came to: whether it is closed, its numbers, what stands in its way, and the way to take it home. */
import { toast } from "sonner";
import { isSolid } from "@/core/made";
import { SOLID_FORMATS, type SolidForm } from "@/core/files";
import { add, rotate } from "@/core/math";
import type { Surface } from "@/core/scene";
import { troubleSaid, type SolidFacts } from "@/core/solid";
import { fileJobs } from "@/engine/file-clients";
import type { SolidState } from "@/engine/solids";
import { useScene } from "@/store";
import { asFileName, Button, Choose, download } from "../kit";
import { isJoined, useSession, useSolids } from "../state";

export function SolidSection({ surface }: { surface: Surface }) {
  const state = useSolids(({ states }) => states.get(surface.id));
  const failure = useSolids(({ failures }) => failures.get(surface.id));
  const names = useNames();
  if (!surface.made || !isSolid(surface.made) || !state) return null;
  return (
    <section aria-label="What it came to" className="grid gap-1.5 border-t border-linen-2 pt-2">
      {state.solved && <Facts facts={state.solved.facts} stale={!isJoined(state)} surface={surface} />}
      <Work surface={surface} state={state} />
      {failure !== undefined && <p className="text-xs text-madder">{failure}</p>}
      {state.troubles.map((trouble, k) => (
        <p key={k} className="text-xs leading-relaxed text-ochre-dark">
          {troubleSaid(trouble, (id) => names.get(id) ?? "something that is gone")}
        </p>
      ))}
      {isJoined(state) && <TakeHome surface={surface} />}
    </section>
  );
}

function useNames(): ReadonlyMap<string, string> {
  const { lines, surfaces, dressings, props } = useScene((scene) => scene);
  return new Map([...lines, ...surfaces, ...dressings, ...props].map(({ id, name }) => [id, name]));
}

/** Cubic metres in the unit that suits. */
function volumeSaid(volume: number): string {
  const figure = (value: number) => value.toLocaleString("en", { maximumSignificantDigits: 3 });
  if (volume >= 0.1) return `${figure(volume)} m³`;
  if (volume >= 1e-4) return `${figure(volume * 1e3)} l`;
  return `${figure(volume * 1e6)} cm³`;
}

/** Lengths to three figures, all in the unit that suits the longest. */
function lengthsSaid(lengths: readonly number[]): string {
  const [unit, times] = Math.max(...lengths) >= 0.5 ? ["m", 1] : ["mm", 1000];
  const figure = (value: number) => (value * times).toLocaleString("en", { maximumSignificantDigits: 3 });
  return `${lengths.map(figure).join(" × ")} ${unit}`;
}

function Facts({ facts, stale, surface }: { facts: SolidFacts; stale: boolean; surface: Surface }) {
  const { closed, volume, size, thinnest } = facts;
  const times = surface.scale;
  const rows: [string, string][] = [
    ["Volume", volumeSaid(volume * times ** 3)],
    ["Size", lengthsSaid(size.map((side) => side * times))],
    ["Thinnest wall", thinnest ? lengthsSaid([thinnest.thickness * times]) : "none"],
  ];
  return (
    <dl
      className={`grid grid-cols-[84px_1fr] gap-x-2 gap-y-0.5 text-[12.5px] ${stale ? "opacity-55" : ""}`}
      aria-label={stale ? "As it was before" : "As it is"}
    >
      <dt className="text-ink-6">Closed</dt>
      <dd className={closed ? "text-moss" : "text-madder"}>
        {closed ? "yes, all round" : "no"}
        {stale && <span className="text-ink-6"> · as it was before</span>}
      </dd>
      {rows.map(([label, value]) => (
        <div key={label} className="contents">
          <dt className="text-ink-6">{label}</dt>
          <dd className="font-mono text-xs leading-5">
            {value}
            {label === "Thinnest wall" && thinnest && !stale && (
              <button
                type="button"
                className="ml-2 font-sans text-sea underline"
                title="Look at that place."
                onClick={() => lookAt(surface, thinnest)}
              >
                Show
              </button>
            )}
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** Looks at a place of a surface from near by. */
function lookAt({ position, rotation, scale }: Surface, { at, thickness }: NonNullable<SolidFacts["thinnest"]>): void {
  const turned = rotate(rotation, [at[0] * scale, at[1] * scale, at[2] * scale]);
  useSession.setState({ cameraWish: { kind: "place", at: add(position, turned), size: 8 * thickness * scale } });
}

/** How far the joining has come, and the way to stop it or to begin it again. */
function Work({ surface, state }: { surface: Surface; state: SolidState }) {
  const joining = useSolids((solids) => solids.joining);
  const left = useSolids((solids) => solids.left);
  if (state.job === null || isJoined(state)) return null;
  if (left.has(state.job))
    return (
      <p className="flex items-center gap-2 text-xs text-ink-6">
        What is shown is not joined.
        <Button onClick={() => useSolids.getState().again()}>Join it</Button>
      </p>
    );
  const own = joining?.id === surface.id ? joining : null;
  return (
    <p role="status" className="flex items-center gap-2 text-xs text-ink-6">
      {own ? "Joining" : "Waiting to be joined"}
      {own && (
        <progress
          value={Math.round(100 * own.share)}
          max={100}
          aria-label="How far"
          className="h-1.5 grow accent-sea"
        />
      )}
      <Button onClick={() => useSolids.getState().stop()}>Stop</Button>
    </p>
  );
}

function TakeHome({ surface }: { surface: Surface }) {
  const write = async (form: SolidForm) => {
    const { states, solved } = useSolids.getState();
    const own = solved().get(states.get(surface.id)?.job ?? "");
    if (!own) return;
    try {
      const bytes = await fileJobs.writeSolid(form, own.mesh, surface, surface.name);
      const name = `${asFileName(surface.name)}.${SOLID_FORMATS[form].ending}`;
      download(bytes, name);
      toast.success(`“${name}” is written.`);
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error), { duration: 12_000 });
    }
  };
  return (
    <Choose
      label="Take it home as a file"
      choices={Object.entries(SOLID_FORMATS).map(([id, { label, help }]) => ({ id, label: `${label} · ${help}` }))}
      onChoose={(form) => void write(form as SolidForm)}
      className="h-8 justify-self-start rounded-lg border border-linen-3 bg-linen-0 px-2.5 hover:bg-linen-1"
    >
      Take it home…
    </Choose>
  );
}
