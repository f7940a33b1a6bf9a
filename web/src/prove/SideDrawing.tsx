import type { CarrierRobot, Robot, SorterRobot } from "@perceptum/core/world";
import type { ReactNode } from "react";
import { useProject } from "../hooks/project";
import { useSize } from "../ui/useSize";

/** A machine from the side in mm, nose to the right, what it stands on at 0; sensors are drawn over it. */
interface Side {
  from: number;
  to: number;
  /** Its highest part. */
  high: number;
  shape: ReactNode;
}

const wheelAt = (x: number, radius: number) => (
  <g key={x} transform={`translate(${x} ${radius})`}>
    <circle r={radius} fill="var(--sheet)" />
    <circle r="2" fill="currentColor" />
  </g>
);

function carrierSide({ bogieMm, wheelMm }: CarrierRobot): Side {
  const half = bogieMm / 2;
  const long = half + 26;
  const floor = wheelMm * 0.8;
  return {
    from: -long,
    to: long,
    high: floor + 40,
    shape: (
      <>
        <rect x={-long} y={floor} width={2 * long} height="40" rx="6" fill="var(--sheet)" />
        {[-half, half].flatMap((x) => [
          wheelAt(x - wheelMm * 0.35, wheelMm / 2),
          wheelAt(x + wheelMm * 0.35, wheelMm / 2),
        ])}
      </>
    ),
  };
}

function sorterSide({ gates, rollerMm, mounts }: SorterRobot): Side {
  const long = Math.max(300, ...gates.map((gate) => gate.atMm + gate.reachMm), ...mounts.map((mount) => mount.x + 100));
  const r = Math.min(40, rollerMm / 2);
  return {
    from: -20,
    to: long + 20,
    high: 60,
    shape: (
      <>
        <rect x="0" y={-2 * r} width={long} height={2 * r} rx={r} fill="var(--sheet)" />
        {[r, long - r].map((x) => (
          <circle key={x} cx={x} cy={-r} r={r * 0.8} />
        ))}
        {gates.map(({ id, atMm, reachMm }) => (
          <path key={id} d={`M${atMm - reachMm / 2} 0v22h${reachMm}v-22`} />
        ))}
      </>
    ),
  };
}

function cartSide(robot: Robot & { wheelMm: number }): Side {
  const nose = Math.max(30, ...robot.mounts.map((mount) => mount.x));
  const r = robot.wheelMm / 2;
  return {
    from: -60,
    to: nose + 10,
    high: r + 36,
    shape: (
      <>
        <rect x="-55" y={r * 0.7} width={nose + 45} height="36" rx="6" fill="var(--sheet)" />
        {wheelAt(0, r)}
      </>
    ),
  };
}

const SIDES: Record<string, (robot: never) => Side> = { carrier: carrierSide, sorter: sorterSide, cart: cartSide };

/** A robot from the side: how high its sensors hang, and where each of them looks. */
export function SideDrawing({ robot }: { robot: Robot }) {
  const { sensors } = useProject();
  const { ref, width, height } = useSize<HTMLDivElement>();
  const side = SIDES[robot.kind]?.(robot as never) ?? { from: -60, to: 60, high: 20, shape: null };
  const spots = robot.mounts.map((mount) => {
    const tilt = mount.looks === "down" ? (mount.tilt ?? 0) : 0;
    const reach = mount.looks === "down" ? mount.z * Math.tan((tilt * Math.PI) / 180) : 0;
    return { mount, at: mount.x + reach, name: sensors.find((sensor) => sensor.id === mount.sensor)?.name ?? "" };
  });
  const from = Math.min(side.from, ...spots.map(({ at }) => at - 30));
  const to = Math.max(side.to, ...spots.map(({ at }) => at + 30));
  const high = Math.max(side.high, ...robot.mounts.map((mount) => mount.z + 24)) + 10;
  const deep = 50;
  const scale = Math.max(0.05, Math.min((width - 40) / (to - from), height / (high + deep)));
  const line = 1.5 / scale;
  return (
    <div ref={ref} style={{ flex: "0 0 170px", minHeight: 0, position: "relative", overflow: "hidden" }}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="img"
          aria-label={`${robot.name} from the side: ${spots.map(({ mount, name }) => `${name} ${mount.z} mm high`).join(", ")}`}
        >
          <g
            transform={`translate(${(width - (to - from) * scale) / 2 - from * scale} ${high * scale}) scale(${scale} ${-scale})`}
            stroke="currentColor"
            fill="none"
            strokeWidth={line}
          >
            <path d={`M${from - 200} 0H${to + 200}`} opacity="0.6" />
            {side.shape}
            {spots.map(({ mount, at }) => (
              <g key={mount.sensor}>
                <path d={`M${mount.x} ${mount.z}L${at} 0`} strokeDasharray={`${3 / scale} ${3 / scale}`} />
                <rect x={mount.x - 9} y={mount.z} width="18" height="12" fill="currentColor" stroke="none" />
                <circle cx={at} cy="0" r={3.5 / scale} fill="currentColor" stroke="none" />
              </g>
            ))}
          </g>
          {spots.map(({ mount, name }) => (
            <text
              key={mount.sensor}
              x={Math.max(56, Math.min(width - 56, (width - (to - from) * scale) / 2 + (mount.x - from) * scale))}
              y={high * scale + 17}
              textAnchor="middle"
              fontSize="11"
              fill="var(--ink-2)"
            >
              {spots.length > 2 ? `${mount.z} mm` : `${name}, ${mount.z} mm`}
            </text>
          ))}
        </svg>
      )}
    </div>
  );
}
