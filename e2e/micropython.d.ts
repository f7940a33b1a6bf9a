declare module "@micropython/micropython-webassembly-pyscript" {
  /** MicroPython in WebAssembly, as far as the tests use it. */
  export function loadMicroPython(options: { heapsize?: number }): Promise<{
    globals: { get(name: string): unknown };
    runPython(source: string): unknown;
  }>;
}
