import type { Address } from "@perceptum/core/live";
import { openTcp } from "./tcp";
import type { Wire, WireListener } from "./wire";

/**
 * Opens the line to a robot. What serial lines and brokers need is loaded when one is asked for: it takes a quarter of
 * a second, and few lines are of that kind.
 * @throws Error in words, where it cannot be opened
 */
export async function openWire(address: Exclude<Address, { by: "stdio" }>, hears: WireListener): Promise<Wire> {
  if (address.by === "tcp") return openTcp(address, hears);
  if (address.by === "serial") return (await import("./serial")).openSerial(address, hears);
  return (await import("./broker")).openMqtt(address, "readings", "commands", hears);
}
