/** Where a robot's line is. */
export type Address =
  | { by: "stdio" }
  | { by: "tcp"; host: string; port: number }
  | { by: "serial"; path: string; baud: number }
  | { by: "mqtt"; host: string; port: number; topic: string };

/** The forms of an address, for who writes one wrongly. */
export const ADDRESSES = "tcp://host:port, serial:/dev/…?baud=115200, mqtt://host/topic";

const MQTT_PORT = 1883;
const HOST = String.raw`(\[[0-9a-f:]+\]|[a-z0-9][a-z0-9.-]*)`;

const portOf = (digits: string | undefined, otherwise: number) => (digits === undefined ? otherwise : Number(digits));
const isPort = (port: number) => port >= 1 && port <= 65_535;

/** Reads where a line is. A sentence about what is wrong otherwise. */
export function readAddress(text: string): Address | { problem: string } {
  const bare = new RegExp(`^${HOST}:\\d{1,5}$`, "i").test(text);
  const problem = {
    problem: `“${text}” is no line to a robot; ${bare ? `did you mean tcp://${text}?` : `there is ${ADDRESSES}`}`,
  };
  if (text === "-") return { by: "stdio" };
  const tcp = new RegExp(`^tcp://${HOST}:(\\d{1,5})$`, "i").exec(text);
  if (tcp !== null) {
    const port = Number(tcp[2]);
    return isPort(port) ? { by: "tcp", host: tcp[1].replace(/[[\]]/g, ""), port } : problem;
  }
  const serial = /^serial:([^?\s]+)(?:\?baud=(\d{1,8}))?$/.exec(text);
  if (serial !== null) {
    const baud = portOf(serial[2], 115_200);
    return baud >= 50 && baud <= 12_000_000 ? { by: "serial", path: serial[1], baud } : problem;
  }
  const mqtt = new RegExp(`^mqtt://${HOST}(?::(\\d{1,5}))?/([^#+\\s]{1,200})$`, "i").exec(text);
  if (mqtt === null) return problem;
  const port = portOf(mqtt[2], MQTT_PORT);
  return isPort(port) ? { by: "mqtt", host: mqtt[1].replace(/[[\]]/g, ""), port, topic: mqtt[3] } : problem;
}
