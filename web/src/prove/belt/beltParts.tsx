import type { TargetId } from "@perceptum/core/names";
import { useTargets } from "../../hooks/project";
import { isDark } from "../../targets/Chip";
import type { SceneCrate, SceneGate, ScenePiece } from "./beltScene";

const MONO = "Atkinson Hyperlegible Mono Variable, monospace";

/** A piece on the belt in its target's paint; one that is drawn by the seed has a question mark. */
export function Piece(props: { piece: ScenePiece; x: number; y: number; scale: number; waits: boolean }) {
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
export function Gate(props: {
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
        {named && gate.name}
      </text>
    </g>
  );
}

/** A sensor over the belt: its housing above, its spot on the belt, and what it takes that for. */
export function Sensor(props: {
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
export function Crate(props: { crate: SceneCrate; x: number; y: number; wide: number; deep: number }) {
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
