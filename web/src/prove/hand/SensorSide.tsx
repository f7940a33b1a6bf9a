import type { Sensor } from "@perceptum/core/readings";
import type { Target } from "@perceptum/core/rules";
import { isDark } from "../../targets/Chip";

/** What lies before a sensor, and how far away in mm. */
export interface Before {
  target: Target | undefined;
  mm: number;
}

const MARGIN = 12;
const HOUSING = { width: 104, height: 44 };
/** How high a card is drawn, seen from its edge, in CSS pixels. */
const CARD_HEIGHT = 14;
/** A card is as wide as one for a hand, in mm. */
const CARD_MM = 86;

/** One sensor from the side, in CSS pixels around the middle of its column: its spot widens to what is before it. */
export function SensorSide(props: {
  sensor: Sensor;
  /** So far is drawn, in mm. */
  reach: number;
  width: number;
  height: number;
  before: Before | null;
  /** What it is taken for; missing where nothing has been read yet. */
  seen?: Target | "unknown";
  /** With it the height has a handle. */
  onGrab?: (event: React.PointerEvent, mmPerPixel: number) => void;
}) {
  const { sensor, reach, width, height, before, seen, onGrab } = props;
  const top = MARGIN + HOUSING.height + 8;
  const perMm = Math.max(0.1, (height - top - 30) / reach);
  const y = (mm: number) => top + mm * perMm;
  const half = Math.min(width * 0.34, (CARD_MM * perMm) / 2);
  const spot = Math.max(3, (sensor.optics.spotMm * perMm) / 2);
  const ticks = Array.from({ length: Math.floor(reach / 10) + 1 }, (_, i) => 10 * i);
  const end = before === null ? y(reach) : y(before.mm);
  return (
    <g stroke="currentColor" fill="none">
      <rect
        x={-HOUSING.width / 2}
        y={MARGIN}
        width={HOUSING.width}
        height={HOUSING.height}
        rx="4"
        fill="var(--sheet)"
        strokeWidth="1.5"
      />
      <rect x="-11" y={MARGIN + HOUSING.height} width="22" height="8" fill="currentColor" stroke="none" />
      <text
        x="0"
        y={MARGIN + 17}
        textAnchor="middle"
        fontSize="12"
        fontWeight="650"
        fill="currentColor"
        stroke="none"
        textLength={sensor.name.length > 15 ? HOUSING.width - 12 : undefined}
        lengthAdjust="spacingAndGlyphs"
      >
        {sensor.name}
      </text>
      <SeenSign seen={seen} y={MARGIN + 33} />
      <path d={`M-7 ${top}H7L${spot} ${end}H${-spot}Z`} fill="currentColor" fillOpacity="0.08" stroke="none" />
      <path
        d={`M${-half - 26} ${top}V${y(reach)}${ticks.map((mm) => `M${-half - 26} ${y(mm)}h${mm % 20 === 0 ? -8 : -4}`).join("")}`}
        opacity="0.6"
      />
      {ticks
        .filter((mm) => mm % 20 === 0)
        .map((mm) => (
          <text
            key={mm}
            x={-half - 38}
            y={y(mm) + 4}
            textAnchor="end"
            fontSize="11"
            fill="var(--ink-2)"
            stroke="none"
            fontFamily="Atkinson Hyperlegible Mono Variable, monospace"
          >
            {mm === 0 ? "0 mm" : mm}
          </text>
        ))}
      {before !== null && (
        <>
          <path d={`M${-half - 26} ${end}h${26}`} strokeDasharray="3 3" />
          <rect
            x={-half}
            y={end}
            width={2 * half}
            height={CARD_HEIGHT}
            rx="2"
            fill={before.target?.paint ?? "none"}
            strokeWidth="1.5"
          />
          <text x="0" y={end + CARD_HEIGHT + 16} textAnchor="middle" fontSize="12" fill="currentColor" stroke="none">
            {before.target?.name}, {before.mm.toFixed(0)} mm
          </text>
          {onGrab !== undefined && (
            <g
              transform={`translate(${half} ${end + CARD_HEIGHT / 2})`}
              style={{ cursor: "ns-resize" }}
              onPointerDown={(event) => onGrab(event, 1 / perMm)}
            >
              <title>height</title>
              <circle r="14" fill="transparent" stroke="none" />
              <circle r="7" fill="var(--sheet)" strokeWidth="1.5" />
              <path d="M-3 -2L0 -5L3 -2M-3 2L0 5L3 2" />
            </g>
          )}
        </>
      )}
    </g>
  );
}

/** What the sensor takes it for, as a chip in its housing. */
function SeenSign({ seen, y }: { seen: Target | "unknown" | undefined; y: number }) {
  if (seen === undefined) return null;
  const known = seen !== "unknown";
  return (
    <g transform={`translate(0 ${y})`}>
      <rect
        x="-13"
        y="-9"
        width="26"
        height="16"
        rx="2"
        fill={known ? seen.paint : "none"}
        strokeDasharray={known ? undefined : "3 2"}
      />
      <text
        y="3"
        textAnchor="middle"
        fontSize="10"
        fontWeight="700"
        fill={known ? (isDark(seen.paint) ? "#fff" : "#000") : "currentColor"}
        stroke="none"
        fontFamily="Atkinson Hyperlegible Mono Variable, monospace"
      >
        {known ? seen.code : "??"}
      </text>
    </g>
  );
}
