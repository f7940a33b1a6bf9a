export { glasshouseRound } from "./glasshouseRound";
