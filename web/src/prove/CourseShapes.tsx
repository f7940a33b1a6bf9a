import type { TargetId } from "@perceptum/core/names";
import {
  type Course,
  courseKindOf,
  type DrawnCourse,
  laidOut,
  type Painted,
  paintsOf,
  type Rail,
  RailWay,
  type Shape,
} from "@perceptum/core/world";
import { useTargets } from "../hooks/project";
import { isDark } from "../targets/Chip";
import { codeBelow, labelMm, topOf, zoneLabels } from "./zoneLabels";

/** All that lies on a course or stands beside it, without its words, in mm with y upwards. `start` is drawn strongest. */
export function CourseShapes({ course, start }: { course: Course | DrawnCourse; start: string }) {
  const { patches, lines, rail } = laidOut(course);
  const targets = useTargets();
  const [long, high] = course.size;
  const paint = (id: TargetId) => targets.get(id)?.paint ?? "#808080";
  const ink = groundInk(paint(course.ground));
  return (
    <>
      <rect width={long} height={high} fill={paint(course.ground)} />
      <Joints long={long} high={high} ink={ink} />
      {lines.map((line, i) => (
        <path
          key={`${i} ${line.points.join()}`}
          d={line.points
            .map((p, k) => `${k % (line.apart ? 2 : line.points.length) === 0 ? "M" : "L"}${p.join(" ")}`)
            .join("")}
          fill="none"
          stroke={paint(line.target)}
          strokeWidth={line.width}
          strokeLinecap={line.apart ? "butt" : "round"}
          strokeLinejoin="round"
        />
      ))}
      {rail !== undefined && <RailLine rail={rail} ink={ink} />}
      {patches.map(({ shape, target, at, angle }, i) => (
        <g key={`${i} ${at}`} transform={`translate(${at[0]} ${at[1]}) rotate(${angle})`}>
          <PaintedShape shape={shape} target={target} />
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
          <Outline shape={shape} fill="none" stroke={ink} strokeWidth="5" strokeDasharray="16 12" />
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
          <path d="M14 0h26m-9 -8l9 8l-9 8" fill="none" stroke={ink} strokeWidth="3" />
        </g>
      ))}
      {posesOf(course).map((s) => (
        <g
          key={s.name}
          transform={`translate(${s.x} ${s.y}) rotate(${s.heading})`}
          stroke={ink}
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

/** The words of a course: codes of patches and names of zones. They lie above a trail, each with a rim. */
export function CourseWords({ course, mmPerPixel }: { course: Course | DrawnCourse; mmPerPixel: number }) {
  const { patches } = laidOut(course);
  const targets = useTargets();
  const ink = groundInk(targets.get(course.ground)?.paint);
  const codeOf = (patch: number) =>
    paintsOf(patches[patch].target)
      .map((id) => targets.get(id)?.code ?? "")
      .join("/");
  const size = labelMm(mmPerPixel);
  const labels = zoneLabels({ zones: course.zones, patches }, codeOf, size);
  return (
    <>
      {patches.map(
        ({ shape, target, at, angle }, i) =>
          extentOf(shape) > 10 * mmPerPixel && (
            <g key={`${i} ${at}`} transform={`translate(${at[0]} ${at[1]}) rotate(${angle})`}>
              <Word text={codeOf(i)} angle={angle} y={codeBelow(shape)} size={size} mono {...inkOf(targets, target)} />
            </g>
          ),
      )}
      {course.zones.map(({ name, at, angle }, i) => (
        <g key={`${i} ${name}`} transform={`translate(${at[0]} ${at[1]}) rotate(${angle})`}>
          <Word
            text={name}
            angle={angle}
            y={-labels[i]}
            size={size}
            ink={ink}
            rim={ink === "#fff" ? "#161616" : "#fff"}
          />
        </g>
      ))}
    </>
  );
}

/** A code's ink on what a thing is painted with, which is its rim. */
function inkOf(targets: ReadonlyMap<string, { paint: string }>, target: Painted): { ink: string; rim: string } {
  const rim = targets.get(paintsOf(target)[0])?.paint ?? "#808080";
  return { ink: isDark(rim) ? "#fff" : "#000", rim };
}

/** A word that stands upright, whatever angle its thing lies at. */
function Word(props: {
  text: string;
  angle: number;
  y: number;
  size: number;
  ink: string;
  rim: string;
  mono?: boolean;
}) {
  const { text, angle, y, size, ink, rim, mono = false } = props;
  return (
    <text
      transform={`rotate(${-angle}) scale(1 -1)`}
      y={y}
      fontSize={size}
      textAnchor="middle"
      fill={ink}
      stroke={rim}
      strokeWidth={0.2 * size}
      strokeLinejoin="round"
      paintOrder="stroke"
      {...(mono && { fontWeight: "700", fontFamily: "Atkinson Hyperlegible Mono Variable" })}
    >
      {text}
    </text>
  );
}

/** A rail drawn along its middle, with a stop at each end of an open one. */
function RailLine({ rail, ink }: { rail: Rail; ink: string }) {
  const way = new RailWay(rail);
  const steps = Math.max(2, Math.ceil(way.length / 10));
  const points = Array.from({ length: steps + 1 }, (_, i) =>
    way.at(Math.min(way.length * (i / steps), way.length - 1e-6)),
  );
  const ends = way.closed ? [] : [way.at(0), way.end];
  return (
    <g fill="none" stroke={ink} strokeWidth="5">
      <path
        d={points.map(({ x, y }, i) => `${i === 0 ? "M" : "L"}${x.toFixed(1)} ${y.toFixed(1)}`).join("")}
        opacity="0.75"
      />
      {ends.map(({ x, y, sin, cos }) => (
        <path
          key={`${x} ${y}`}
          d={`M${x - 30 * sin} ${y + 30 * cos}L${x + 30 * sin} ${y - 30 * cos}`}
          strokeWidth="10"
        />
      ))}
    </g>
  );
}

/** Every start with where it is. */
const posesOf = (course: Course | DrawnCourse) =>
  course.starts.map((start) =>
    "x" in start ? start : { name: start.name, ...courseKindOf(course).begins(course as Course, start) },
  );

/** What is drawn on a ground without a paint of its own: white, or black where the ground is light. */
export const groundInk = (paint: string | undefined) => (isDark(paint ?? "#808080") ? "#fff" : "#161616");

/** How wide a shape is at most, in mm. */
const extentOf = (shape: Shape) => ("rect" in shape ? Math.max(...shape.rect) : 2 * topOf(shape));

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

/** The joints of the floor, every 30 cm. */
function Joints({ long, high, ink }: { long: number; high: number; ink: string }) {
  const lines = [];
  for (let x = 300; x < long; x += 300) lines.push(`M${x} 0V${high}`);
  for (let y = 300; y < high; y += 300) lines.push(`M0 ${y}H${long}`);
  return <path d={lines.join("")} stroke={ink} strokeOpacity="0.22" strokeWidth="3" fill="none" />;
}

/** A length to compare with, in the corner. */
export function ScaleBar({ high, ink, mmPerPixel }: { high: number; ink: string; mmPerPixel: number }) {
  return (
    <g transform={`translate(40 ${high - 40})`} stroke={ink} fill="none" strokeWidth="4">
      <path d="M0 -16V0H200V-16" />
      <text
        x="216"
        y="2"
        fontSize={labelMm(mmPerPixel)}
        fill={ink}
        stroke="none"
        fontFamily="Atkinson Hyperlegible Mono Variable"
      >
        20 cm
      </text>
    </g>
  );
}
