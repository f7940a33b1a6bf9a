import { connect, type Socket } from "node:net";
import { CONNECT_MS, type Wire, type WireListener, WORDS, wordsOf } from "./wire";

/** A socket as a wire. */
export function overSocket(socket: Socket, hears: WireListener): Wire {
  socket.setNoDelay(true);
  socket.setEncoding("utf8");
  let wrong: string | undefined;
  socket.on("data", (text) => hears.text(String(text)));
  socket.on("error", (error) => {
    wrong = wordsOf(error);
  });
  socket.on("close", () => hears.closed(wrong));
  return {
    send: (text) => void (socket.writable && socket.write(text)),
    end: () => void socket.end(),
  };
}

/** Opens a line over TCP. @throws Error in words */
export function openTcp({ host, port }: { host: string; port: number }, hears: WireListener): Promise<Wire> {
  return new Promise((done, fail) => {
    const socket = connect({ host, port });
    const refused = (error: Error) => fail(new Error(wordsOf(error)));
    socket.once("error", refused);
    socket.setTimeout(CONNECT_MS, () => socket.destroy(new Error(WORDS.ETIMEDOUT)));
    socket.once("connect", () => {
      socket.off("error", refused);
      socket.setTimeout(0);
      done(overSocket(socket, hears));
    });
  });
}
