"use client";
import { useLayoutEffect, useState, type RefObject } from "react";

/** How large an element is, pixels; it is drawn anew when that changes. */
export function useSize(ref: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const measure = () => {
      const { clientWidth: width, clientHeight: height } = element;
      setSize((before) => (before.width === width && before.height === height ? before : { width, height }));
    };
    // At once, so that nothing is drawn as if it had no width.
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [ref]);
  return size;
}
