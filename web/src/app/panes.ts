/** What Tab would come to in a part of the page. */
const STOPS = 'a[href], button:not([disabled]), input:not([disabled]), textarea, [tabindex="0"]';

/** The controls of a pane that can be seen, as Tab goes through them. */
export const stopsIn = (pane: Element): HTMLElement[] =>
  [...pane.querySelectorAll<HTMLElement>(STOPS)].filter(
    (stop) => stop.tabIndex >= 0 && stop.getClientRects().length > 0,
  );

/** Goes on to the first control of the next pane, or back (−1) to that of the one before; around at the ends. */
export function goToPane(direction: 1 | -1): void {
  const panes = [...document.querySelectorAll("[data-pane]")].flatMap((pane) => {
    const [first] = stopsIn(pane);
    return first === undefined ? [] : [{ pane, first }];
  });
  if (panes.length === 0) return;
  const now = panes.findIndex(({ pane }) => pane.contains(document.activeElement));
  const next = now < 0 ? (direction === 1 ? 0 : panes.length - 1) : (now + direction + panes.length) % panes.length;
  panes[next].first.focus();
}
