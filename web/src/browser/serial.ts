import type { Ports } from "../model/live/PortLink";

/** What asks for a serial port (Web Serial); undefined where the browser has none. */
export const browserSerial = (): Ports | undefined => (navigator as { serial?: Ports }).serial;
