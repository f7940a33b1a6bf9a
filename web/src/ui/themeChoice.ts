import { usePublished } from "../hooks/usePublished";
import { Published } from "../model/Published";
import { PALETTES, type Palette, type ThemeName } from "./theme";

const KEY = "perceptum-theme";
const system = window.matchMedia("(prefers-color-scheme: dark)");
const chosen = () => localStorage.getItem(KEY) as ThemeName | null;
const current = (): ThemeName => chosen() ?? (system.matches ? "dark" : "light");

const themeName = new Published<ThemeName>(current());

/** Puts the chosen theme (or else the system's) on the page. */
export function applyTheme(): void {
  document.documentElement.dataset.theme = current();
  themeName.set(current());
}

system.addEventListener("change", applyTheme);

export function chooseTheme(name: ThemeName): void {
  localStorage.setItem(KEY, name);
  applyTheme();
}

export const useThemeName = (): ThemeName => usePublished(themeName);
/** The greys as values, for what is drawn on a canvas. */
export const usePalette = (): Palette => PALETTES[useThemeName()];
