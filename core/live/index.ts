export { Acting, type ActingListener, WATCHED_MS } from "./Acting";
export { type Address, readAddress } from "./address";
export { ALIVE_MS, DRIVE_EVERY_MS, STOP_LINE } from "./Driver";
export { Gathered } from "./Gathered";
export { beyondScale, LineReader, Listens, listensOf } from "./LineReader";
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
export { RobotText } from "./RobotText";
export { SimulatedRobot } from "./SimulatedRobot";
export { lineRows, type SentRow, tableRows } from "./tableRows";
