/** A time in ms as screens show it: `1.25 s`. */
export const seconds = (ms: number, digits = 2): string => `${(ms / 1000).toFixed(digits)} s`;
