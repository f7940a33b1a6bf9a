import type { ReadingsEvent } from "./link";
import type { RobotLine } from "./protocol";

/** Readings that came together, sensor by sensor, for a page that shows them. */
export class Gathered {
  private readonly bySensor = new Map<string, ReadingsEvent>();

  /** Takes in a line; gives whether it was a reading. */
  take(message: RobotLine, at: number): boolean {
    if (!("s" in message) || "blobs" in message) return false;
    const { s, t = null, v } = message;
    let event = this.bySensor.get(s);
    if (event === undefined) {
      event = { s, t: [], v: [], at };
      this.bySensor.set(s, event);
    }
    event.t.push(t);
    event.v.push(v);
    return true;
  }

  /** What has come since it was last asked. */
  events(): ReadingsEvent[] {
    const events = [...this.bySensor.values()];
    this.bySensor.clear();
    return events;
  }
}
