/** A choice of several with one more taken in, or left out if it was among them. */
export const toggled = <T>(all: readonly T[], one: T): T[] =>
  all.includes(one) ? all.filter((x) => x !== one) : [...all, one];
