/** So many of something: `1 check`, `3,000 checks`. */
export const amount = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString("en")} ${n === 1 ? one : many}`;
