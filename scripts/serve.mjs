/** Serves the build: for this machine alone unless `HOST` says otherwise, on `PORT` or 3000. */
import { createServer } from "node:http";
import next from "next";
import { ROOT } from "./ensure.mjs";

const port = Number(process.env.PORT ?? 3000);
const hostname = process.env.HOST ?? "127.0.0.1";
const app = next({ dev: false, dir: ROOT, hostname, port });

/** An address that is not written as one may be leads where any does that leads nowhere, and not to a bare error. */
function wellFormed(address = "/") {
  try {
    decodeURIComponent(new URL(address, "http://any").pathname);
    return address;
  } catch {
    return "/no-such-page";
  }
}

/** Between programs of one machine, packing takes longer than sending. */
const near = ["127.0.0.1", "::1", "localhost"].includes(hostname);

/**
 * An idle connection is kept for so long, milliseconds. Proxies keep theirs for 60 s and write to them until then; who closes
 * first must not be this one, or what is being written is lost.
 */
const keepAliveTimeout = 75_000;

await app.prepare();
const handle = app.getRequestHandler();
createServer({ keepAliveTimeout }, (request, response) => {
  request.url = wellFormed(request.url);
  if (near) delete request.headers["accept-encoding"];
  void handle(request, response);
}).listen(port, hostname, () => console.log(`Ready: http://localhost:${port}/`));
