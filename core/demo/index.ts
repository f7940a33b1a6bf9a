export { bedWatch, type PackFrame } from "./bedWatch";
export { glasshouseRound } from "./glasshouseRound";
export { pipeRailCarrier } from "./pipeRailCarrier";
export { pottingShed } from "./pottingShed";
export { routeCards } from "./routeCards";
