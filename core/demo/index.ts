export { glasshouseRound } from "./glasshouseRound";
export { routeCards } from "./routeCards";
