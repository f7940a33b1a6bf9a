const STEPS_S = [0.1, 0.2, 0.5, 1, 2, 4, 5, 10, 20, 30, 60, 120, 300, 600, 1200, 3600];

/** At most about twelve ticks for a length in ms, on round seconds. */
export function timeTicks(length: number): { t: number; text: string }[] {
  const step = STEPS_S.find((s) => length / 1000 / s <= 12) ?? 7200;
  const ticks: { t: number; text: string }[] = [];
  for (let s = 0; s * 1000 <= length; s += step) ticks.push({ t: s * 1000, text: `${Number(s.toFixed(1))} s` });
  return ticks;
}
