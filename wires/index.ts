export { frameOf, sizeOfPicture } from "./picture";
export { listenAt, openPty, openRobotMqtt } from "./robotSide";
export { type Hears, openWire, type Wire } from "./wire";
