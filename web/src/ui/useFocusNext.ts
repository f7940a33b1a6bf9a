import { useEffect, useRef } from "react";

/**
 * Keeps the focus within a list whose entries are moved and removed: `focusNext` names where it goes once the change is
 * drawn, by the names of controls, the first of them that is there.
 */
export function useFocusNext() {
  const wanted = useRef<readonly string[]>([]);
  useEffect(() => {
    if (wanted.current.length === 0) return;
    const names = wanted.current;
    wanted.current = [];
    for (const name of names) {
      const found = document.querySelector<HTMLElement>(`[aria-label="${CSS.escape(name)}"]:not([disabled])`);
      if (found === null) continue;
      found.focus();
      return;
    }
  });
  return (...names: string[]) => {
    wanted.current = names;
  };
}
