export { openWire } from "./openWire";
export { frameOf, sizeOfPicture } from "./picture";
export { listenAt, openPty, openRobotMqtt } from "./robotSide";
export type { Wire, WireListener } from "./wire";
