/** *Whether a worker is still there.* A busy one answers nothing, so a worker within it beats as long as both live. */

/** Milliseconds between looks, and without a beat after which a worker counts as gone. */
const LOOK = 1000;
const SILENT = 4000;

/** What a worker is told to let its beat be heard. */
export interface PulseRequest {
  pulse: MessagePort;
}

/**
 * Listens for a worker's beats; where it never has any, as where workers know no workers, it is never called gone.
 *
 * @returns what ends the listening
 */
export function listenForPulse(worker: Worker, gone: () => void): () => void {
  const { port1, port2 } = new MessageChannel();
  let last = Infinity;
  let missed = 0;
  port1.onmessage = () => {
    last = performance.now();
    missed = 0;
  };
  worker.postMessage({ pulse: port2 } satisfies PulseRequest, [port2]);
  const clock = setInterval(() => {
    // A page that was busy itself hears the beats only after this look: so it takes two.
    missed = performance.now() - last > SILENT ? missed + 1 : 0;
    if (missed > 1) gone();
  }, LOOK);
  return () => {
    clearInterval(clock);
    port1.close();
  };
}

/** In a worker: starts the beat when it is asked for. */
export function beatWhenAsked(): void {
  self.addEventListener("message", ({ data }: MessageEvent<Partial<PulseRequest>>) => {
    if (!data?.pulse) return;
    const beat = new Worker(new URL("./pulse.worker.ts", import.meta.url), { type: "module" });
    beat.postMessage(data.pulse, [data.pulse]);
  });
}
