import { createGlobalStyle } from "styled-components";
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-mono/wght.css";

/** Every grey of the case. Colour belongs to readings and paints alone, in either theme. */
export interface Palette {
  bench: string;
  panel: string;
  sheet: string;
  rule: string;
  ruleSoft: string;
  ink: string;
  ink2: string;
  ink3: string;
  pressed: string;
  hatch: string;
}

export type ThemeName = "light" | "dark";

export const PALETTES: Record<ThemeName, Palette> = {
  light: {
    bench: "#e4e4e4",
    panel: "#f4f4f4",
    sheet: "#ffffff",
    rule: "#c6c6c6",
    ruleSoft: "#e2e2e2",
    ink: "#161616",
    ink2: "#525252",
    ink3: "#6b6b6b",
    pressed: "#dcdcdc",
    hatch: "#ececec",
  },
  dark: {
    bench: "#0f0f0f",
    panel: "#1c1c1c",
    sheet: "#242424",
    rule: "#4a4a4a",
    ruleSoft: "#343434",
    ink: "#f2f2f2",
    ink2: "#bdbdbd",
    ink3: "#9a9a9a",
    pressed: "#3d3d3d",
    hatch: "#2c2c2c",
  },
};

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
