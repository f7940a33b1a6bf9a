/** Which way an arrow key moves a value: 1 is more, -1 is less, 0 for every other key. */
export const arrowStep = (key: string): -1 | 0 | 1 =>
  key === "ArrowRight" || key === "ArrowUp" ? 1 : key === "ArrowLeft" || key === "ArrowDown" ? -1 : 0;
