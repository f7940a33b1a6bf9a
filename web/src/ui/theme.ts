import { createGlobalStyle } from "styled-components";
import { PALETTES, type Palette } from "./palettes";
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-mono/wght.css";

export { PALETTES, type Palette, type ThemeName } from "./palettes";

const kebab = (key: string) => key.replace(/[A-Z]|\d/g, (c) => `-${c.toLowerCase()}`);
const vars = (palette: Palette) =>
  Object.entries(palette)
    .map(([key, value]) => `--${kebab(key)}: ${value};`)
    .join(" ");

/** The theme as styled-components see it: names that the page's custom properties fill. */
export const theme = {
  ...(Object.fromEntries(
    Object.keys(PALETTES.light).map((key) => [key, `var(--${kebab(key)})`]),
  ) as unknown as Palette),
  radius: "3px",
  sans: '"Atkinson Hyperlegible Next Variable", sans-serif',
  mono: '"Atkinson Hyperlegible Mono Variable", monospace',
};

export type Theme = typeof theme;

export const GlobalStyle = createGlobalStyle`
  :root { ${vars(PALETTES.light)} color-scheme: light; }
  :root[data-theme="dark"] { ${vars(PALETTES.dark)} color-scheme: dark; }
  * { box-sizing: border-box; }
  html, body, #root { height: 100%; }
  body {
    margin: 0; background: ${theme.bench}; color: ${theme.ink};
    font: 13px/1.35 ${theme.sans}; font-variant-numeric: tabular-nums;
    -webkit-font-smoothing: antialiased;
  }
  button, input, select, textarea { font: inherit; color: inherit; }
  h1, h2, h3, p { margin: 0; font-weight: inherit; font-size: inherit; }
  table { border-collapse: collapse; }
  :focus { outline: none; }
  :focus-visible, [data-focus-visible] { outline: 2px solid ${theme.ink}; outline-offset: 2px; box-shadow: 0 0 0 2px ${theme.sheet}; }
  ::selection { background: ${theme.ink}; color: ${theme.sheet}; }
  @media (prefers-reduced-motion: reduce) { * { animation: none !important; transition: none !important; } }
`;
