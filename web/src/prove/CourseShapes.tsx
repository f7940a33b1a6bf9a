import type { TargetId } from "@perceptum/core/names";
import { type Course, type DrawnCourse, type Painted, paintsOf, type Shape } from "@perceptum/core/world";
import { useTargets } from "../session/project";
import { isDark } from "../targets/Chip";

/** All that lies on a course or stands beside it, in mm with y upwards. `start` is drawn strongest. */
export function CourseShapes({ course, start }: { course: Course | DrawnCourse; start: string }) {
  const targets = useTargets();
  const [long, high] = course.size;
  const paint = (id: TargetId) => targets.get(id)?.paint ?? "#808080";
  return (
    <>
      <rect width={long} height={high} fill={paint(course.ground)} />
      <Joints long={long} high={high} />
      {course.lines.map((line, i) => (
        <polyline
          key={`${i} ${line.points.join()}`}
          points={line.points.map((p) => p.join(",")).join(" ")}
          fill="none"
          stroke={paint(line.target)}
          strokeWidth={line.width}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      ))}
      {course.patches.map(({ shape, target, at, angle }, i) => (
        <g key={`${i} ${at}`} transform={`translate(${at[0]} ${at[1]}) rotate(${angle})`}>
          <PaintedShape shape={shape} target={target} />
          <Code target={target} angle={angle} shape={shape} />
        </g>
      ))}
      {course.shade.map(({ from, to, level }, i) => (
        <rect
          key={`${i} ${from}`}
          x={Math.min(from[0], to[0])}
          y={Math.min(from[1], to[1])}
          width={Math.abs(to[0] - from[0])}
          height={Math.abs(to[1] - from[1])}
          fill={level < 1 ? "#000" : "#fff"}
          opacity={level < 1 ? 0.35 * (1 - level) : Math.min(0.3, 0.1 * level)}
        />
      ))}
      {course.zones.map(({ name, shape, at, angle }, i) => (
        <g key={`${i} ${name}`} transform={`translate(${at[0]} ${at[1]}) rotate(${angle})`}>
          <Outline shape={shape} fill="none" stroke="#fff" strokeWidth="5" strokeDasharray="16 12" />
          <text
            transform={`rotate(${-angle}) scale(1 -1)`}
            y={-topOf(shape) + 34}
            fontSize="30"
            textAnchor="middle"
            fill="#fff"
            stroke="#111"
            strokeWidth="6"
            paintOrder="stroke"
          >
            {name}
          </text>
        </g>
      ))}
      {course.signs.map(({ target, at, angle, width }, i) => (
        <g key={`${i} ${at}`} transform={`translate(${at[0]} ${at[1]}) rotate(${angle})`}>
          <rect x="-12" y={-width / 2} width="12" height={width} fill="#f4f4f4" stroke="#161616" strokeWidth="3" />
          {paintsOf(target).map((id, k, all) => (
            <rect
              key={id}
              x="0"
              y={-width / 2 + (k * width) / all.length}
              width="10"
              height={width / all.length}
              fill={paint(id)}
            />
          ))}
          <path d="M14 0h26m-9 -8l9 8l-9 8" fill="none" stroke="#fff" strokeWidth="3" />
        </g>
      ))}
      {course.starts.map((s) => (
        <g
          key={s.name}
          transform={`translate(${s.x} ${s.y}) rotate(${s.heading})`}
          stroke="#fff"
          strokeWidth="4"
          fill="none"
          opacity={s.name === start ? 1 : 0.5}
        >
          <path d="M-40 -34H-62V34H-40" />
        </g>
      ))}
    </>
  );
}

/** How far a shape reaches up from its own place, unturned, in mm. */
const topOf = (shape: Shape) =>
  "rect" in shape ? shape.rect[1] / 2 : "disc" in shape ? shape.disc / 2 : Math.max(...shape.polygon.map((p) => p[1]));

/** The outline of a shape around its own place. */
export function Outline({ shape, ...style }: { shape: Shape } & React.SVGProps<SVGElement>) {
  const props = style as Record<string, string>;
  if ("disc" in shape) return <circle r={shape.disc / 2} {...props} />;
  if ("rect" in shape)
    return (
      <rect x={-shape.rect[0] / 2} y={-shape.rect[1] / 2} width={shape.rect[0]} height={shape.rect[1]} {...props} />
    );
  return <polygon points={shape.polygon.map((p) => p.join(",")).join(" ")} {...props} />;
}

/** A shape in its target's paint; one that is drawn by the seed in stripes of all that it may be. */
function PaintedShape({ shape, target }: { shape: Shape; target: Painted }) {
  const targets = useTargets();
  const ids = paintsOf(target);
  const paint = (id: TargetId) => targets.get(id)?.paint ?? "#808080";
  if (ids.length === 1) return <Outline shape={shape} fill={paint(ids[0])} />;
  const pattern = `stripes-of-${ids.join("-")}`;
  return (
    <>
      <pattern
        id={pattern}
        width={24 * ids.length}
        height="24"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        {ids.map((id, k) => (
          <rect key={id} x={24 * k} width="24" height="24" fill={paint(id)} />
        ))}
      </pattern>
      <Outline shape={shape} fill={`url(#${pattern})`} />
    </>
  );
}

function Code({ target, angle, shape }: { target: Painted; angle: number; shape: Shape }) {
  const targets = useTargets();
  const ids = paintsOf(target);
  const first = targets.get(ids[0]);
  const text = ids.map((id) => targets.get(id)?.code ?? "").join("/");
  return (
    <text
      transform={`rotate(${-angle}) scale(1 -1)`}
      fontSize="30"
      fontWeight="700"
      textAnchor="middle"
      y={"rect" in shape && shape.rect[1] > 100 ? shape.rect[1] / 2 - 10 : 10}
      fill={isDark(first?.paint ?? "#808080") ? "#fff" : "#000"}
      fontFamily="Atkinson Hyperlegible Mono Variable"
    >
      {text}
    </text>
  );
}

/** The joints of the floor, every 30 cm. */
function Joints({ long, high }: { long: number; high: number }) {
  const lines = [];
  for (let x = 300; x < long; x += 300) lines.push(`M${x} 0V${high}`);
  for (let y = 300; y < high; y += 300) lines.push(`M0 ${y}H${long}`);
  return <path d={lines.join("")} stroke="#fff" strokeOpacity="0.22" strokeWidth="3" fill="none" />;
}

/** A length to compare with, in the corner. */
export function ScaleBar({ high }: { high: number }) {
  return (
    <g transform={`translate(40 ${high - 40})`} stroke="#fff" fill="none" strokeWidth="4">
      <path d="M0 -16V0H200V-16" />
      <text x="216" y="2" fontSize="34" fill="#fff" stroke="none" fontFamily="Atkinson Hyperlegible Mono Variable">
        20 cm
      </text>
    </g>
  );
}
