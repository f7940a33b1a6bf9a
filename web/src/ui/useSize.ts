import { type RefObject, useLayoutEffect, useRef, useState } from "react";

/** The size of an element in CSS pixels, kept up to date. */
export function useSize<E extends HTMLElement>(): { ref: RefObject<E | null>; width: number; height: number } {
  const ref = useRef<E>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const element = ref.current;
    if (element === null) return;
    const measured = ({ width, height }: DOMRectReadOnly) =>
      setSize((known) => {
        const now = { width: Math.floor(width), height: Math.floor(height) };
        return now.width === known.width && now.height === known.height ? known : now;
      });
    // At once, so that the first picture is drawn to size; nothing that is measured has a border or padding.
    measured(element.getBoundingClientRect());
    const observer = new ResizeObserver(([entry]) => measured(entry.contentRect));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return { ref, ...size };
}
