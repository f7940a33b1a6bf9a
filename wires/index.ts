export { frameOf, sizeOfPicture } from "./picture";
export { listenAt, openPty, openRobotMqtt } from "./robotSide";
export { openWire, type Wire, type WireListener } from "./wire";
