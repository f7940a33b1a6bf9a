/** Every grey of the case. Colour belongs to readings and paints alone, in either theme. */
export interface Palette {
  bench: string;
  panel: string;
  sheet: string;
  rule: string;
  ruleSoft: string;
  /** The edge of what can be typed into or pressed: at least 3 : 1 on every ground. */
  edge: string;
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
    edge: "#868686",
    ink: "#161616",
    ink2: "#525252",
    ink3: "#5f5f5f",
    pressed: "#dcdcdc",
    hatch: "#ececec",
  },
  dark: {
    bench: "#0f0f0f",
    panel: "#1c1c1c",
    sheet: "#242424",
    rule: "#4a4a4a",
    ruleSoft: "#343434",
    edge: "#7d7d7d",
    ink: "#f2f2f2",
    ink2: "#bdbdbd",
    ink3: "#ababab",
    pressed: "#3d3d3d",
    hatch: "#2c2c2c",
  },
};
