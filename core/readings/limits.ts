/** The most readings one tape may hold. */
export const MAX_READINGS = 2_000_000;
