import * as z from "zod";
import { Table } from "../../names";
import { carrier } from "./carrier";
import type { CarrierRobot } from "./carrierSchema";
import { cart } from "./cart";
import type { CartRobot } from "./cartSchema";
import { type HandRobot, hand } from "./hand";
import type { RobotKind } from "./RobotKind";
import { sorter } from "./sorter";
import type { SorterRobot } from "./sorterSchema";

export type { CarrierRobot } from "./carrierSchema";
export type { CartRobot } from "./cartSchema";
export { type AnyRobot, LOOKS, looksAhead, Motor, Mount, Servo } from "./parts";
export type { Around, Beginning, Drive, RobotKind } from "./RobotKind";
export { Crate, Gate, type SorterRobot } from "./sorterSchema";

/** The simulated machine. */
export type Robot = CartRobot | HandRobot | CarrierRobot | SorterRobot;

/** Every kind of robot. */
export const ROBOTS = new Table<RobotKind<Robot>>([cart, hand, carrier, sorter] as unknown as RobotKind<Robot>[]);
export const Robot: z.ZodType<Robot> = z.union(ROBOTS.schemas as unknown as [z.ZodType<Robot>, z.ZodType<Robot>]);

/** The table entry of a robot. */
export const robotKindOf = (robot: { kind: string }): RobotKind<Robot> => ROBOTS.get(robot.kind);

/** A robot as behaviour knows it. */
export const machineOf = (robot: Robot) => robotKindOf(robot).machine(robot);
