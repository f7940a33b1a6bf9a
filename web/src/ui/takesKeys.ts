/** Whether keys belong to what has the focus, because one types or chooses there. */
export function takesKeys(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    target.closest("input, textarea, select, [role=listbox], [role=dialog], [role=menu]") !== null
  );
}
