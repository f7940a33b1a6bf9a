/** Whether the person asked the system for less motion. */
export const wantsStillness = (): boolean => window.matchMedia("(prefers-reduced-motion: reduce)").matches;

/** More flashes a second than this can do harm (WCAG 2.3.1). */
const MOST_FLASHES = 3;

/** How often a lamp may be told to blink and still be drawn blinking while time goes by so many times as fast; above it is lit. */
export const mostBlinkHz = (speed: number): number => (wantsStillness() ? 0 : MOST_FLASHES / speed);
