/** White and dark whose channels differ by more than so many times were mostly taken over a colour, or in coloured light. */
const UNEVEN = 1.6;

/** One channel of a white or dark that was taken. */
export interface TakenChannel {
  channel: string;
  mean: number;
}

/** Says why a white whose channels are far from even is doubtful; undefined for an even one. */
export function unevenWhite(
  white: readonly TakenChannel[],
  dark: readonly TakenChannel[] | undefined,
): string | undefined {
  const colours = white.flatMap(({ channel, mean }, i) =>
    ["r", "g", "b"].includes(channel) ? [{ channel, above: mean - (dark?.[i]?.mean ?? 0) }] : [],
  );
  if (colours.length < 3) return undefined;
  const most = colours.reduce((a, b) => (b.above > a.above ? b : a));
  const least = colours.reduce((a, b) => (b.above < a.above ? b : a));
  if (most.above <= UNEVEN * Math.max(1e-9, least.above)) return undefined;
  return `White is far from even: ${most.channel} lies ${(most.above / Math.max(1e-9, least.above)).toFixed(1)} times as far above dark as ${least.channel}. Was it taken over a colour, or in coloured light? Every hue is turned by it then. Take it over white, in the light that the robot will have.`;
}
