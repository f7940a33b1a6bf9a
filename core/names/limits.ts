/** The most readings one tape may hold. */
export const MAX_READINGS = 2_000_000;
/** The most channels of a report. */
const MAX_CHANNELS = 4;
/** The most bytes of a tape's readings as `encodeReadings` writes them, in one chunk or in many. */
export const MAX_READINGS_BYTES = 8 * (MAX_READINGS * (1 + MAX_CHANNELS) + 100_000);
/** The most bytes of a project file beside its frames. */
export const MAX_PROJECT_BYTES = 50 * 1024 * 1024;
/** The most bytes that the frames of a project take in its file. */
export const MAX_FRAMES_BYTES = 150 * 1024 * 1024;
/** The largest project file that is read, in bytes. */
export const MAX_PROJECT_FILE_BYTES = MAX_PROJECT_BYTES + MAX_FRAMES_BYTES;
/** The largest document without readings that is kept, in bytes as the server holds it. */
export const MAX_DOCUMENT_BYTES = 10 * 1024 * 1024;
