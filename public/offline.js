/**
 * The offline worker: once Clothesline has been opened it opens again without network or server. It keeps the files of one
 * build; a newer build is fetched beside it, and waits until it is asked for or no tab of the older one is left.
 */
/* global self, caches, importScripts, fetch, Response, URL */
importScripts("/offline-files.js");
const { version, files } = self.OFFLINE;
const CACHE = `clothesline-${version}`;
/** Every scene's page is the same: which one it is stands in its address. */
const SCENE = "/scene/any";
const PAGES = [
  "/",
  SCENE,
  "/manifest.webmanifest",
  "/icon.svg",
  "/icon-192.png",
  "/gullhaven.jpg",
  "/picture-worker.js",
  "/table.js",
];

self.addEventListener("install", (event) => {
  event.waitUntil(caches.open(CACHE).then((cache) => cache.addAll([...PAGES, ...files])));
});

self.addEventListener("activate", (event) => {
  const old = caches.keys().then((names) => names.filter((name) => name.startsWith("clothesline-") && name !== CACHE));
  event.waitUntil(
    old.then((names) => Promise.all(names.map((name) => caches.delete(name)))).then(() => self.clients.claim()),
  );
});

/** Under which address a request is kept; null for what is always asked of the server. */
function keptAs({ method, mode, url }) {
  const { origin, pathname, search } = new URL(url);
  if (method !== "GET" || origin !== self.location.origin) return null;
  if (files.includes(pathname)) return pathname;
  if (mode === "navigate" && search === "") {
    if (pathname.startsWith("/scene/")) return SCENE;
    if (pathname === "/") return "/";
  }
  return PAGES.includes(pathname) && search === "" ? pathname : null;
}

self.addEventListener("fetch", (event) => {
  const name = keptAs(event.request);
  if (name === null) return;
  const kept = caches.open(CACHE).then((cache) => cache.match(name));
  // As a response without an address it takes the request's, fragment and all, by which workers know what they are.
  event.respondWith(kept.then((found) => (found ? new Response(found.body, found) : fetch(event.request))));
});

self.addEventListener("message", ({ data }) => {
  if (data === "use the new version") void self.skipWaiting();
});
