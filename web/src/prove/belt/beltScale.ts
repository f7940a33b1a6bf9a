/** Left for what waits to come onto the belt, and right for what falls off its end, in CSS pixels. */
export const FEED = 84;
const OFF = 64;
/** The same in a drawing that is too narrow for them, and how wide that is. */
export const NARROW = 420;
const [LITTLE_FEED, LITTLE_OFF] = [26, 36];
/** Above the belt for the sensors, between it and the crates, and the crates themselves. */
const ABOVE = 74;
export const CHUTE = 30;
const CRATE = 118;

/** How large the belt is drawn, and where. */
export function beltScale([long, wide]: readonly [number, number], width: number, height: number) {
  const [feed, off] = width < NARROW ? [LITTLE_FEED, LITTLE_OFF] : [FEED, OFF];
  const deep = Math.max(84, Math.min(CRATE, height * 0.4));
  const room = height - ABOVE - CHUTE - deep - 16;
  const scale = Math.max(0.02, Math.min((width - feed - off) / long, room / wide));
  const left = feed + Math.max(0, (width - feed - off - long * scale) / 2);
  const top = ABOVE + Math.max(0, (room - wide * scale) / 2);
  return {
    scale,
    left,
    off,
    top,
    deep,
    x: (mm: number) => left + mm * scale,
    y: (mm: number) => top + (wide - mm) * scale,
  };
}
