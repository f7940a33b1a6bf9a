import { type CameraSensor, isCamera, type Sensor } from "@perceptum/core/readings";
import { type Mount, type Robot, View } from "@perceptum/core/world";
import type { RunMoment } from "./momentOf";
import { halfWidthOf, ROBOT_DRAWINGS } from "./robotDrawings";

type Pose = Pick<RunMoment, "x" | "y" | "heading" | "lamp" | "lamps" | "servos" | "slipping">;

/** What a camera sees of the floor is drawn as far as this, in mm. */
const FAR_MM = 1500;

/** The part of the floor that a camera sees. */
function SeenFloor({ sensor, mount }: { sensor: CameraSensor; mount: Mount }) {
  const corners = new View(sensor, mount).seenFloor(sensor.frame, FAR_MM);
  if (corners.length === 0) return null;
  return (
    <polygon
      points={corners.map(([x, y]) => `${mount.x + x},${mount.y + y}`).join(" ")}
      fill="var(--on-ground, #fff)"
      fillOpacity="0.1"
      stroke="var(--on-ground, #fff)"
      strokeWidth="4"
      strokeDasharray="14 10"
    />
  );
}

/** The robot from above: its wheels, where its sensors look, its lamps and servos; by hand only the sensors. */
export function RobotShape({ robot, pose, sensors = [] }: { robot: Robot; pose: Pose; sensors?: readonly Sensor[] }) {
  const { x, y, heading, lamp, lamps, servos, slipping } = pose;
  const half = halfWidthOf(robot);
  const Drawing = ROBOT_DRAWINGS[robot.kind];
  const nose = Math.max(30, ...robot.mounts.map((m) => m.x));
  return (
    <g transform={`translate(${x} ${y}) rotate(${heading})`} stroke="#161616" strokeWidth="5">
      {robot.mounts.map((m) => {
        const sensor = sensors.find((s) => s.id === m.sensor);
        return sensor !== undefined && isCamera(sensor) ? <SeenFloor key={m.sensor} sensor={sensor} mount={m} /> : null;
      })}
      <Drawing robot={robot} half={half} nose={nose} />
      <circle cx={-half * 0.55} cy="0" r="16" fill={lamp ?? "#f4f4f4"} />
      {lamps.map(({ name, colour }, i) => (
        <circle
          key={name}
          cx={-half * 0.55 - 4}
          cy={(i % 2 === 0 ? 1 : -1) * (24 + 18 * (i >> 1))}
          r="8"
          fill={colour}
        />
      ))}
      {robot.mounts.map((m) => (
        <g key={m.sensor} transform={`translate(${m.x} ${m.y})`}>
          <circle r={m.looks === "down" ? 14 : 8} fill="none" strokeWidth="4" />
          <circle r="3.5" fill="#161616" stroke="none" />
          {m.looks !== "down" && (
            <path
              d="M10 0h34m-10 -8l10 8l-10 8"
              transform={`rotate(${{ left: 90, right: -90, ahead: 0 }[m.looks]})`}
              fill="none"
              stroke="var(--on-ground, #fff)"
              strokeWidth="4"
            />
          )}
        </g>
      ))}
      {servos.map(({ name, degrees }, i) => (
        <path
          key={name}
          d="M0 0H52"
          transform={`translate(${-half * 0.9} ${i * 14}) rotate(${90 + degrees})`}
          stroke="#161616"
          strokeWidth="8"
          strokeLinecap="round"
        />
      ))}
      {slipping && (
        <path
          d={`M${-half * 1.5} ${half}h-40M${-half * 1.5} ${-half}h-40`}
          fill="none"
          stroke="var(--on-ground, #fff)"
          strokeDasharray="10 8"
        />
      )}
    </g>
  );
}
