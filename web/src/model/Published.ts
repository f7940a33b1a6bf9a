/** A value outside Redux, because it is large or comes from a worker; components subscribe to it. */
export class Published<T> {
  private readonly listeners = new Set<() => void>();
  constructor(private value: T) {}

  readonly get = (): T => this.value;

  set(value: T): void {
    this.value = value;
    for (const listener of this.listeners) listener();
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
}
