type Column = Float64Array | Uint8Array | Int32Array;

/** The same numbers with twice the room, noughts behind. */
export function longer<A extends Column>(values: A): A {
  const made = new (values.constructor as new (length: number) => A)(2 * values.length);
  made.set(values);
  return made;
}
