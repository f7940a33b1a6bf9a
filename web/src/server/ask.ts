/** Asks the server. @throws Error with a sentence where it cannot be reached; an `AbortError` where it was given up */
export const ask = (path: string, init: RequestInit = {}): Promise<Response> =>
  fetch(path, init).catch((error: Error) => {
    if (error.name === "AbortError") throw error;
    throw new Error("the server cannot be reached");
  });
