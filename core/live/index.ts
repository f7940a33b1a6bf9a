export { type Address, readAddress } from "./address";
export { csvLines } from "./csvLines";
export { DRIVE_EVERY_MS, Driver } from "./Driver";
export { Gathered } from "./Gathered";
export { type Driven, type LiveMoment, LiveRobot, linesOf } from "./LiveRobot";
export * from "./link";
export {
  LineSplitter,
  lineOf,
  MOST_LINE_BYTES,
  PROTOCOL_VERSION,
  protocolJsonSchema,
  RobotLine,
  readRobotLine,
  readToRobotLine,
  SILENCE_MS,
  ToRobotLine,
} from "./protocol";
export { SimulatedRobot } from "./SimulatedRobot";
