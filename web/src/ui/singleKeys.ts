const KEY = "perceptum-single-keys";

/** Whether a letter, digit or sign alone does something: speech input and stray keys can switch that off. */
export const singleKeysWork = (): boolean => localStorage.getItem(KEY) !== "off";

export function letSingleKeysWork(on: boolean): void {
  if (on) localStorage.removeItem(KEY);
  else localStorage.setItem(KEY, "off");
}
