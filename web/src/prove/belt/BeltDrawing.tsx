import type { TargetId } from "@perceptum/core/names";
import { type Course, type DrawnCourse, machineOf, type Robot } from "@perceptum/core/world";
import { useTargets } from "../../session/project";
import { isDark } from "../../targets/Chip";
import { Outline } from "../CourseShapes";
import type { BeltScene, SceneCrate, SceneGate, ScenePiece } from "./beltScene";
import { spread } from "./beltScene";

const MONO = "Atkinson Hyperlegible Mono Variable, monospace";
/** Left for what waits to come onto the belt, and right for what falls off its end, in CSS pixels. */
const FEED = 84;
const OFF = 64;
/** The same in a drawing that is too narrow for them, and how wide that is. */
const NARROW = 420;
const [LITTLE_FEED, LITTLE_OFF] = [26, 36];
/** Above the belt for the sensors, between it and the crates, and the crates themselves. */
const ABOVE = 74;
const CHUTE = 30;
const CRATE = 118;

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

/** How large the belt is drawn, and where. */
export function beltScale([long, wide]: readonly [number, number], width: number, height: number) {
  const [feed, off] = width < NARROW ? [LITTLE_FEED, LITTLE_OFF] : [FEED, OFF];
  const deep = Math.max(84, Math.min(CRATE, height * 0.4));
  const room = height - ABOVE - CHUTE - deep - 16;
  const scale = Math.max(0.02, Math.min((width - feed - off) / long, room / wide));
  const left = feed + Math.max(0, (width - feed - off - long * scale) / 2);
  const top = ABOVE + Math.max(0, (room - wide * scale) / 2);
  return {
    scale,
    left,
    off,
    top,
    deep,
    x: (mm: number) => left + mm * scale,
    y: (mm: number) => top + (wide - mm) * scale,
  };
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
          slant={slantOf(Math.max(...scene.gates.map(({ id }) => id.length)) * 6.2, apartOf(middles))}
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

function Piece(props: { piece: ScenePiece; x: number; y: number; scale: number; waits: boolean }) {
  const { piece, x, y, scale, waits } = props;
  const targets = useTargets();
  const [first, ...others] = piece.targets.map((id) => targets.get(id));
  const { shape } = piece;
  const fill = first?.paint ?? "#808080";
  const half = "disc" in shape ? shape.disc / 2 : "rect" in shape ? shape.rect[1] / 2 : 20;
  return (
    <g transform={`translate(${x} ${y})`} opacity={waits ? 0.45 : 1}>
      {"disc" in shape ? (
        <circle r={half * scale} fill={fill} stroke="#161616" strokeWidth="1" />
      ) : (
        "rect" in shape && (
          <rect
            x={(-shape.rect[0] * scale) / 2}
            y={-half * scale}
            width={shape.rect[0] * scale}
            height={2 * half * scale}
            fill={fill}
            stroke="#161616"
            strokeWidth="1"
          />
        )
      )}
      {half * scale > 8 && (
        <text
          y="4"
          textAnchor="middle"
          fontSize="11"
          fontWeight="700"
          fontFamily={MONO}
          fill={isDark(fill) ? "#fff" : "#000"}
          stroke="none"
        >
          {others.length > 0 ? "?" : first?.code}
        </text>
      )}
    </g>
  );
}

/** A paddle at the belt's edge: closed it lies along it, open it leads what comes down into the crate. */
function Gate(props: {
  gate: SceneGate;
  x: (mm: number) => number;
  top: number;
  bottom: number;
  crateTop: number;
  crateX: number;
  /** How far its name is turned, where there is no room for it to lie level. */
  slant: number;
  /** Whether its name is written at all. */
  named: boolean;
}) {
  const { gate, x, top, bottom, crateTop, crateX, slant, named } = props;
  const [from, to] = [x(gate.from), x(gate.to)];
  const middle = (from + to) / 2;
  const tip = top - 3 + gate.open * (bottom - top + 3);
  return (
    <g>
      <rect
        x={from}
        y={top}
        width={to - from}
        height={bottom - top}
        fill="#000"
        fillOpacity={0.1 + 0.2 * gate.open}
        stroke="none"
      />
      <path
        d={`M${from} ${top}V${bottom}M${to} ${top}V${bottom}`}
        stroke="#fff"
        strokeOpacity="0.7"
        strokeDasharray="4 4"
      />
      <path
        d={`M${middle - 12} ${bottom + 2}L${crateX - 12} ${crateTop}M${middle + 12} ${bottom + 2}L${crateX + 12} ${crateTop}`}
        opacity="0.6"
      />
      <path d={`M${from} ${top - 3}L${to} ${tip}`} strokeWidth="5" strokeLinecap="round" />
      <circle cx={from} cy={top - 3} r="5" fill="var(--sheet)" strokeWidth="1.5" />
      <text
        transform={`translate(${middle} ${top - 12})rotate(${slant})`}
        textAnchor={slant === 0 ? "middle" : "start"}
        fontSize="11"
        fill="var(--ink-2)"
        stroke="none"
      >
        {named && gate.id}
      </text>
    </g>
  );
}

/** A sensor over the belt: its housing above, its spot on the belt, and what it takes that for. */
function Sensor(props: {
  name: string;
  x: number;
  y: number;
  top: number;
  spot: number;
  seen: TargetId | "unknown" | undefined;
}) {
  const { name, x, y, top, spot, seen } = props;
  const targets = useTargets();
  const target = seen === undefined || seen === "unknown" ? undefined : targets.get(seen);
  const high = top - 66;
  // Its housing stays in the drawing.
  const aside = Math.max(0, 50 - x);
  return (
    <g transform={`translate(${x} 0)`}>
      <path d={`M0 ${high + 42}V${y - Math.max(5, spot)}`} strokeDasharray="2 3" />
      <circle cy={y} r={Math.max(4, spot)} stroke="#fff" strokeWidth="3" />
      <circle cy={y} r={Math.max(4, spot)} stroke="#161616" strokeWidth="1.2" />
      <rect x={aside - 46} y={high} width="92" height="42" rx="4" fill="var(--sheet)" strokeWidth="1.5" />
      <text
        x={aside}
        y={high + 16}
        textAnchor="middle"
        fontSize="12"
        fontWeight="650"
        fill="currentColor"
        stroke="none"
        textLength={name.length > 13 ? 82 : undefined}
        lengthAdjust="spacingAndGlyphs"
      >
        {name}
      </text>
      {seen !== undefined && (
        <g transform={`translate(${aside} ${high + 29})`}>
          <Sign fill={target?.paint} code={target?.code ?? "??"} />
        </g>
      )}
    </g>
  );
}

function Sign({ fill, code }: { fill: string | undefined; code: string }) {
  return (
    <>
      <rect
        x="-13"
        y="-8"
        width="26"
        height="16"
        rx="2"
        fill={fill ?? "none"}
        strokeDasharray={fill === undefined ? "3 2" : undefined}
      />
      <text
        y="4"
        textAnchor="middle"
        fontSize="10"
        fontWeight="700"
        fontFamily={MONO}
        fill={fill !== undefined && isDark(fill) ? "#fff" : fill === undefined ? "currentColor" : "#000"}
        stroke="none"
      >
        {code}
      </text>
    </>
  );
}

/** A crate with its name and, of each target, a chip and how many; what does not belong there is crossed. */
function Crate(props: { crate: SceneCrate; x: number; y: number; wide: number; deep: number }) {
  const { crate, x, y, wide, deep } = props;
  const targets = useTargets();
  const sum = crate.held.reduce((total, { count }) => total + count, 0);
  const fit = Math.floor((deep - 34) / 20);
  // Too narrow for its name below, it has it within.
  const narrow = wide < 50 && crate.held.length === 0;
  return (
    <g transform={`translate(${x - wide / 2} ${y})`}>
      <path d={`M0 0V${deep - 22}H${wide}V0`} strokeWidth="1.5" fill="var(--sheet)" />
      <text
        transform={
          narrow ? `translate(${wide / 2 + 4} ${deep - 27}) rotate(-90)` : `translate(${wide / 2} ${deep - 7})`
        }
        textAnchor={narrow ? "start" : "middle"}
        fontSize="12"
        fill="currentColor"
        stroke="none"
        textLength={!narrow && crate.name.length * 5.6 > wide + 4 ? wide : undefined}
        lengthAdjust="spacingAndGlyphs"
      >
        {crate.name}
      </text>
      {crate.held.length > fit && (
        <text x="9" y={18 + 20 * (fit - 1)} fontSize="11" fill="currentColor" stroke="none">
          +{crate.held.length - fit + 1} kinds
        </text>
      )}
      {crate.held.slice(0, crate.held.length > fit ? fit - 1 : fit).map(({ target, count, wrong }, i) => {
        const { paint, code } = targets.get(target) ?? {};
        return (
          <g key={target} transform={`translate(22 ${14 + i * 20})`}>
            <Sign fill={paint} code={code ?? "??"} />
            <text
              x="20"
              y="4"
              fontSize="12"
              fontFamily={MONO}
              fill="currentColor"
              stroke="none"
              textDecoration={wrong ? "line-through" : undefined}
            >
              {count}
            </text>
          </g>
        );
      })}
      {sum > 0 && (
        <text
          x={wide - 6}
          y={deep - 28}
          textAnchor="end"
          fontSize="12"
          fontWeight="700"
          fontFamily={MONO}
          fill="currentColor"
          stroke="none"
        >
          {crate.held.length > 1 ? sum : ""}
        </text>
      )}
    </g>
  );
}
