export { type LiveCounts, type LiveMoment, LiveRobot, linesOf } from "./LiveRobot";
export * from "./link";
export {
  LineSplitter,
  lineOf,
  MOST_LINE_BYTES,
  PROTOCOL_VERSION,
  protocolJsonSchema,
  RobotLine,
  readRobotLine,
  SILENCE_MS,
  ToRobotLine,
} from "./protocol";
