/** So many of something: `1 check`, `3 checks`. */
export const amount = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
