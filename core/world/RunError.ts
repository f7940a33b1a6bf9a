/** A run cannot start: what is missing, in a sentence. */
export class RunError extends Error {}
