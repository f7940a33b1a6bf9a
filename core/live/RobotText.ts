import type { Gathered } from "./Gathered";
import { LineSplitter, MOST_LINE_BYTES, readRobotLine } from "./protocol";

/** Hands on the whole lines of a robot's text, which comes in parts, and gathers the readings in them for a page. */
export class RobotText {
  private rest = "";
  private readonly splitter: LineSplitter;

  /** @param now gives how long the link has been open, in ms */
  constructor(gathered: Gathered, now: () => number) {
    this.splitter = new LineSplitter((line) => {
      const read = line === null ? null : readRobotLine(line);
      if (read !== null && "message" in read) gathered.take(read.message, Math.round(now()));
    });
  }

  /** Takes a part; gives the lines that are whole now. A line that is too long already is handed on in pieces. */
  take(part: string): string {
    this.splitter.feed(part);
    const text = this.rest + part;
    const end = text.lastIndexOf("\n") + 1;
    const whole = text.length - end > MOST_LINE_BYTES ? text.length : end;
    this.rest = text.slice(whole);
    return text.slice(0, whole);
  }
}
