import { type CartRobot, type Robot, robotKindOf } from "@perceptum/core/world";
import type { ComponentType } from "react";

/** How a kind of robot is drawn from above, in mm, its nose ahead. */
export type RobotDrawing = ComponentType<{ robot: Robot; half: number; nose: number }>;

/** The drawing of each kind, by the key that it has in core's table. */
export const ROBOT_DRAWINGS: Record<string, RobotDrawing> = {
  cart: CartDrawing as RobotDrawing,
  hand: ({ half }) => <circle r={half} fill="#f4f4f4" />,
};

/** Half the width of a robot's body, in mm; what stands still is drawn as wide as a hand. */
export const halfWidthOf = (robot: Robot): number => robotKindOf(robot).widthMm(robot) / 2 || 40;

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
      <path d={`M${nose + 30} 0h46m-16 -14l16 14l-16 14`} fill="none" stroke="#fff" />
    </>
  );
}
