import type { TargetId } from "@perceptum/core/names";
import { type Course, type DrawnCourse, machineOf, type Robot } from "@perceptum/core/world";
import { useTargets } from "../../hooks/project";
import { Outline } from "../CourseShapes";
import { Crate, Gate, Piece, Sensor } from "./beltParts";
import { beltScale, CHUTE, FEED, NARROW } from "./beltScale";
import type { BeltScene } from "./beltScene";
import { spread } from "./beltScene";

interface Drawn {
  robot: Robot;
  course: Course | DrawnCourse;
  scene: BeltScene;
  /** What each sensor takes what is beneath it for; missing before the first reading. */
  seen: readonly (TargetId | "unknown" | undefined)[];
  names: readonly string[];
  spots: readonly number[];
  width: number;
  height: number;
}

/** A belt to scale from above: pieces, sensors over it, gates, and the crates that they lead to. */
export function BeltDrawing({ robot, course, scene, seen, names, spots, width, height }: Drawn) {
  const targets = useTargets();
  const [long, wide] = course.size;
  const { scale, x, y, left, off, top, deep } = beltScale(course.size, width, height);
  const bottom = top + wide * scale;
  const ground = targets.get(course.ground);
  const { end = "", looksAt = [] } = machineOf(robot).belt ?? {};
  const middles = scene.gates.map((gate) => x((gate.from + gate.to) / 2)).sort((a, b) => a - b);
  const apart = Math.max(70, Math.min(112, apartOf(middles)));
  const crateWide = Math.min(apart, (width - 12) / Math.max(1, scene.crates.length));
  const wished = scene.crates.map(({ id }) => {
    const gate = scene.gates.find((g) => g.crate === id);
    return gate === undefined || id === end ? x(long) + off / 2 : x((gate.from + gate.to) / 2);
  });
  const places = spread(wished, crateWide, 6, width - 6);
  const crateTop = bottom + CHUTE;
  const visible = scene.pieces.filter((p) => p.x * scale > -FEED && p.x < long + 200);
  return (
    <g stroke="currentColor" fill="none">
      <rect
        x={x(0)}
        y={top}
        width={long * scale}
        height={wide * scale}
        fill={ground?.paint ?? "#808080"}
        stroke="none"
      />
      {course.shade.map(({ from, to, level }, i) => (
        <rect
          key={i}
          x={x(Math.min(from[0], to[0]))}
          y={y(Math.max(from[1], to[1]))}
          width={Math.abs(to[0] - from[0]) * scale}
          height={Math.abs(to[1] - from[1]) * scale}
          fill={level < 1 ? "#000" : "#fff"}
          fillOpacity={level < 1 ? 0.35 * (1 - level) : Math.min(0.3, 0.1 * level)}
          stroke="none"
        />
      ))}
      {course.zones.map(({ name, shape, at, angle }) => (
        <g key={name}>
          <g transform={`translate(${x(at[0])} ${y(at[1])}) scale(${scale} ${-scale}) rotate(${angle})`}>
            <Outline
              shape={shape}
              stroke="#fff"
              strokeWidth="1.5"
              strokeDasharray="6 4"
              vectorEffect="non-scaling-stroke"
            />
          </g>
          <text
            x={x(at[0])}
            y={bottom - 6}
            textAnchor="middle"
            fontSize="11"
            fill="#fff"
            stroke="#161616"
            strokeWidth="2.5"
            paintOrder="stroke"
          >
            {name}
          </text>
        </g>
      ))}
      <path d={`M${x(0)} ${top}H${x(long)}M${x(0)} ${bottom}H${x(long)}`} strokeWidth="1.5" />
      {[0, long].map((mm) => (
        <rect
          key={mm}
          x={x(mm) - 5}
          y={top - 4}
          width="10"
          height={wide * scale + 8}
          rx="5"
          fill="var(--sheet)"
          strokeWidth="1.5"
        />
      ))}
      <path d={`M${Math.max(4, left - 52)} ${top - 12}h${Math.min(34, left - 12)}m-9 -5l9 5l-9 5`} strokeWidth="1.5" />
      {scene.gates.map((gate) => (
        <Gate
          key={gate.id}
          gate={gate}
          x={x}
          top={top}
          bottom={bottom}
          crateTop={crateTop}
          slant={slantOf(Math.max(...scene.gates.map(({ name }) => name.length)) * 6.2, apartOf(middles))}
          named={width >= NARROW}
          crateX={places[scene.crates.findIndex((crate) => crate.id === gate.crate)] ?? x(gate.to)}
        />
      ))}
      {visible.map((piece) => (
        <Piece key={piece.piece} piece={piece} x={x(piece.x)} y={y(piece.y)} scale={scale} waits={piece.x < 0} />
      ))}
      <path
        d={`M${x(long) + 8} ${(top + bottom) / 2}Q${x(long) + off / 2} ${(top + bottom) / 2} ${places.at(-1)} ${crateTop - 4}`}
        opacity="0.5"
        strokeDasharray="3 3"
      />
      {looksAt.map((mm, i) => (
        <Sensor
          key={names[i]}
          name={names[i]}
          x={x(mm)}
          y={y(wide / 2 + robot.mounts[i].y)}
          top={top}
          spot={(spots[i] * scale) / 2}
          seen={seen[i]}
        />
      ))}
      {scene.crates.map((crate, i) => (
        <Crate key={crate.id} crate={crate} x={places[i]} y={crateTop} wide={crateWide - 8} deep={deep} />
      ))}
      {scene.jammed > 0 && (
        <text
          x={x(long)}
          y={top - 12}
          textAnchor="end"
          fontSize="12"
          fontWeight="650"
          fill="currentColor"
          stroke="none"
        >
          {scene.jammed === 1 ? "1 piece jammed" : `${scene.jammed} pieces jammed`}
        </text>
      )}
    </g>
  );
}

/** How far names of that length are turned where so little lies between two, in degrees. */
const slantOf = (long: number, apart: number): number => (long <= apart ? 0 : apart > 30 ? -32 : -60);

/** How near each other the nearest two of them are. */
const apartOf = (places: readonly number[]): number => Math.min(...places.slice(1).map((at, i) => at - places[i]));
