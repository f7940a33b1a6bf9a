/**
 * Moves the focus from cell to cell of a table by the arrow keys, Home and End: across to the next cell of the row, up
 * and down through the column. Cells are the buttons with `data-cell`; several may stand in one field of the table.
 */
export function goByArrow(event: React.KeyboardEvent, table: HTMLTableElement): void {
  const { target, key } = event;
  if (!(target instanceof HTMLElement) || target.dataset.cell === undefined) return;
  const field = target.closest("td");
  const row = target.closest("tr");
  if (field === null || row === null) return;
  const cellsOf = (parts: readonly Element[]) =>
    parts.flatMap((part) => [...part.querySelectorAll<HTMLElement>("[data-cell]")]);
  const across = [...row.querySelectorAll("td")];
  const at = across.indexOf(field);
  const down = cellsOf([...table.querySelectorAll("tr")].flatMap((r) => r.querySelectorAll("td")[at] ?? []));
  const next: Record<string, HTMLElement | undefined> = {
    ArrowLeft: cellsOf(across.slice(Math.max(0, at - 1), at))[0],
    ArrowRight: cellsOf(across.slice(at + 1, at + 2))[0],
    ArrowUp: down[down.indexOf(target) - 1],
    ArrowDown: down[down.indexOf(target) + 1],
    Home: cellsOf(across)[0],
    End: cellsOf(across.slice(-1))[0],
  };
  if (!(key in next)) return;
  event.preventDefault();
  event.stopPropagation();
  next[key]?.focus();
}
