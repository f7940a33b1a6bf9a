const STEPS_S = [0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 4, 5, 10, 20, 30, 60, 120, 300, 600, 1200, 3600];

/** Ticks from one time to another, in ms, on round seconds: so many at most, and one more. */
export function timeTicks(from: number, to: number, most = 12): { t: number; text: string }[] {
  const step = STEPS_S.find((s) => (to - from) / 1000 / s <= most) ?? 7200;
  const ticks: { t: number; text: string }[] = [];
  for (let n = Math.ceil(from / 1000 / step - 1e-9) + 0; n * step * 1000 <= to + 1e-6; n++)
    ticks.push({ t: Math.round(n * step * 1e6) / 1e3, text: `${Number((n * step).toFixed(2))} s` });
  return ticks;
}
