/** A stretch, by reading index, over which one target is seen. */
export interface SeenSpan {
  from: number;
  to: number;
  target: number;
}

/** The stretches of one value other than 0. */
export function spansOf(values: Uint8Array): SeenSpan[] {
  const spans: SeenSpan[] = [];
  for (let from = 0; from < values.length; ) {
    let to = from;
    while (to + 1 < values.length && values[to + 1] === values[from]) to++;
    if (values[from] !== 0) spans.push({ from, to, target: values[from] });
    from = to + 1;
  }
  return spans;
}
