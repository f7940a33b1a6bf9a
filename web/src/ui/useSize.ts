import { type RefObject, useLayoutEffect, useRef, useState } from "react";

/** The size of an element in CSS pixels, kept up to date. */
export function useSize<E extends HTMLElement>(): { ref: RefObject<E | null>; width: number; height: number } {
  const ref = useRef<E>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const element = ref.current;
    if (element === null) return;
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      setSize({ width: Math.floor(width), height: Math.floor(height) });
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return { ref, ...size };
}
