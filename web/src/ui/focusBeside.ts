/** Moves the focus in a drawing from one of its parts to the next one, or where there is none to the one before. */
export function focusBeside(part: Element, kind: string): void {
  const all = [...(part.closest("svg")?.querySelectorAll<SVGElement>(kind) ?? [])];
  const at = all.indexOf(part as SVGElement);
  (all[at + 1] ?? all[at - 1])?.focus();
}
