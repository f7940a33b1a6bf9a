import { SerialPort } from "serialport";
import { type Wire, type WireListener, wordsOf } from "./wire";

/** Opens a serial line. @throws Error in words */
export function openSerial({ path, baud }: { path: string; baud: number }, hears: WireListener): Promise<Wire> {
  return new Promise((done, fail) => {
    const port = new SerialPort({ path, baudRate: baud, autoOpen: false });
    const decoder = new TextDecoder();
    port.open((error) => {
      if (error) return fail(new Error(wordsOf(error)));
      let wrong: string | undefined;
      port.on("data", (bytes: Buffer) => hears.text(decoder.decode(bytes, { stream: true })));
      port.on("error", (trouble) => {
        wrong = wordsOf(trouble);
      });
      port.on("close", (trouble: Error | null) => hears.closed(wrong ?? (trouble ? "it was unplugged" : undefined)));
      done({
        send: (text) => void (port.isOpen && port.write(text)),
        end: () => void port.drain(() => port.isOpen && port.close()),
      });
    });
  });
}
