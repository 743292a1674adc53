/** Listens to several events of one thing at once, until the signal ends it. */
export function listen(
  element: HTMLElement,
  signal: AbortSignal,
  handlers: { [K in keyof HTMLElementEventMap]?: (event: HTMLElementEventMap[K]) => void },
): void {
  for (const [name, handler] of Object.entries(handlers)) {
    // Whoever takes the wheel keeps the page from scrolling.
    element.addEventListener(name, handler as EventListener, { signal, passive: name === "wheel" ? false : undefined });
  }
}
