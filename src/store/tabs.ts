/** What tabs tell each other. */

interface Told {
  deleted: string;
}

const channel = typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel("clothesline");
// Under Node nothing else keeps a process alive for it.
(channel as { unref?: () => void } | null)?.unref?.();

export const tellDeleted = (id: string): void => channel?.postMessage({ deleted: id } satisfies Told);

/** Calls back when another tab has deleted a scene. */
export function onDeleted(hear: (id: string) => void): void {
  channel?.addEventListener("message", ({ data }: MessageEvent<Told>) => hear(data.deleted));
}
