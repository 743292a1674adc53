"use client";
/** Keeps Clothesline openable without a network, and asks before a newer version takes the place of this one. */
import { useEffect } from "react";
import { toast } from "sonner";

export function Offline() {
  useEffect(() => {
    if (process.env.NODE_ENV !== "production" || !("serviceWorker" in navigator)) return;
    // The first one to take charge is no news; a later one is, and was asked for.
    let asked = false;
    const anew = () => {
      if (asked) location.reload();
    };
    navigator.serviceWorker.addEventListener("controllerchange", anew);
    const tell = (waiting: ServiceWorker) =>
      toast("A new version of Clothesline is here.", {
        id: "new version",
        duration: Infinity,
        description: "This tab goes on with its own until you say so. Everything is saved.",
        action: {
          label: "Use it",
          onClick: () => {
            asked = true;
            waiting.postMessage("use the new version");
          },
        },
      });
    navigator.serviceWorker
      .register("/offline.js")
      .then((registration) => {
        if (registration.waiting && navigator.serviceWorker.controller) tell(registration.waiting);
        registration.addEventListener("updatefound", () => {
          const coming = registration.installing;
          coming?.addEventListener("statechange", () => {
            if (coming.state === "installed" && navigator.serviceWorker.controller) tell(coming);
          });
        });
      })
      // Without it everything works but opening offline.
      .catch(() => undefined);
    return () => navigator.serviceWorker.removeEventListener("controllerchange", anew);
  }, []);
  return null;
}
