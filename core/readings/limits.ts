/** The most readings one tape may hold. */
export const MAX_READINGS = 2_000_000;
/** The most channels of a report. */
const MAX_CHANNELS = 4;
/** The most bytes of a tape's readings as `encodeReadings` writes them, in one chunk or in many. */
export const MAX_READINGS_BYTES = 8 * (MAX_READINGS * (1 + MAX_CHANNELS) + 100_000);
