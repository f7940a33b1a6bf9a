import { type CarrierRobot, type CartRobot, type Robot, robotKindOf } from "@perceptum/core/world";
import type { ComponentType } from "react";

/** How a kind of robot is drawn from above, in mm, its nose ahead. */
export type RobotDrawing = ComponentType<{ robot: Robot; half: number; nose: number }>;

/** The drawing of each kind, by the key that it has in core's table. */
export const ROBOT_DRAWINGS: Record<string, RobotDrawing> = {
  cart: CartDrawing as RobotDrawing,
  carrier: CarrierDrawing as RobotDrawing,
  hand: ({ half }) => <circle r={half} fill="#f4f4f4" />,
};

/** How far a robot reaches from its middle where that is not said by its width or its sensors, in mm. */
const LENGTHS: Record<string, (robot: never) => number> = {
  carrier: ({ bogieMm }: CarrierRobot) => bogieMm / 2 + 80,
};
export const reachOf = (robot: Robot): number => LENGTHS[robot.kind]?.(robot as never) ?? 0;

/** Half the width of a robot's body, in mm; what stands still is drawn as wide as a hand. */
export const halfWidthOf = (robot: Robot): number => robotKindOf(robot).widthMm(robot) / 2 || 40;

/** A body on its two bogies, which lie on the rail. */
function CarrierDrawing({ robot, half }: { robot: CarrierRobot; half: number }) {
  const long = robot.bogieMm / 2 + 26;
  return (
    <>
      {[1, -1].map((side) => (
        <rect
          key={side}
          x={(side * robot.bogieMm) / 2 - 16}
          y={-half - 6}
          width="32"
          height={2 * half + 12}
          fill="#161616"
        />
      ))}
      <rect x={-long} y={-half} width={2 * long} height={2 * half} rx="12" fill="#f4f4f4" />
      {[1, -1].map((side) => (
        <circle key={side} cx={(side * robot.bogieMm) / 2} r="4" fill="#161616" stroke="none" />
      ))}
      <path d={`M${long + 8} 0h30m-12 -10l12 10l-12 10`} fill="none" stroke="var(--on-ground, #fff)" />
    </>
  );
}

function CartDrawing({ robot, half, nose }: { robot: CartRobot; half: number; nose: number }) {
  return (
    <>
      <rect
        x={-half * 1.2}
        y={-half * 0.85}
        width={half * 1.2 + nose - 14}
        height={half * 1.7}
        rx="14"
        fill="#f4f4f4"
      />
      <rect x={-robot.wheelMm / 2} y={half - 9} width={robot.wheelMm} height="20" fill="#161616" />
      <rect x={-robot.wheelMm / 2} y={-half - 11} width={robot.wheelMm} height="20" fill="#161616" />
      <path d={`M${nose + 30} 0h46m-16 -14l16 14l-16 14`} fill="none" stroke="var(--on-ground, #fff)" />
    </>
  );
}
