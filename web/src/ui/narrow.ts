/** Panes lie below one another and the page scrolls in a window that is narrow, or much enlarged. */
export const NARROW = "@media (max-width: 999px)";
