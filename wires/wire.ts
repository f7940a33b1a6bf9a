/** Who hears what comes over a wire. */
export interface WireListener {
  text(part: string): void;
  /** The other end went away and may come back; null: it is there again. */
  paused?(why: string | null): void;
  /** It is over; with what went wrong, where something did. */
  closed(why?: string): void;
}

/** An open line of text. */
export interface Wire {
  send(text: string): void;
  /** Closes it once all that was sent is gone. */
  end(): void;
}

/** So long an answer is waited for when a line is opened, in ms. */
export const CONNECT_MS = 5000;

export const WORDS: Readonly<Record<string, string>> = {
  ECONNRESET: "the robot closed the line",
  EPIPE: "the robot closed the line",
  ECONNREFUSED: "nothing listens there",
  ENOTFOUND: "there is no such host",
  EHOSTUNREACH: "the host cannot be reached",
  ETIMEDOUT: "the host does not answer",
  EADDRINUSE: "the port is taken",
  EACCES: "this program may not use it",
  ENOENT: "it is not there",
  EBUSY: "it is taken",
};

/** What went wrong, in words. */
export function wordsOf(error: unknown): string {
  const { code, message } = error as NodeJS.ErrnoException;
  if (code !== undefined && code in WORDS) return WORDS[code];
  const known = Object.keys(WORDS).find((word) => message.includes(word));
  if (known !== undefined) return WORDS[known];
  if (/timeout/i.test(message)) return WORDS.ETIMEDOUT;
  if (/no such file/i.test(message)) return WORDS.ENOENT;
  if (/cannot lock|resource busy|temporarily unavailable/i.test(message)) return WORDS.EBUSY;
  if (/permission denied|access denied/i.test(message)) return WORDS.EACCES;
  if (/input\/output error|bad file descriptor|port is not open|disconnected|no such device/i.test(message))
    return "it was unplugged";
  return message;
}
