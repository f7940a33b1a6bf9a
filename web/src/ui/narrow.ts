/** Where a window is narrow, or all of it much enlarged, panes lie below one another and the page scrolls. */
export const NARROW = "@media (max-width: 999px)";
