/** A worker within a worker that only says that it is alive: it ends with the one that started it, however busy that is. */
self.onmessage = ({ data }: MessageEvent<MessagePort>) => {
  setInterval(() => data.postMessage(0), 500);
};
