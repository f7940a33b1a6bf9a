import type { Course, Patch, Robot, Start } from "@perceptum/core/world";
import { useCallback } from "react";
import styled from "styled-components";
import type { LastRun } from "../state/judged";
import { useProject, useTargets } from "../state/project";
import { useAppDispatch, useAppSelector } from "../state/store";
import { hovered } from "../state/view";
import { isDark } from "../targets/Chip";
import { Canvas } from "../ui/Canvas";
import { useSize } from "../ui/useSize";
import { momentOf } from "./momentOf";

const Room = styled.div`
  flex: 1;
  min-height: 0;
  position: relative;
  display: grid;
  place-items: center;
`;
const Layer = styled.div`
  position: absolute;
`;

/** The course to scale, seen from above with y upwards; the cart where it is at time t, and its trail up to then. */
export function CourseView({
  course,
  start,
  run,
  t,
}: {
  course: Course;
  start: Start;
  run: LastRun | null;
  t: number;
}) {
  const { ref, width, height } = useSize<HTMLDivElement>();
  const { robot } = useProject();
  const targets = useTargets();
  const dispatch = useAppDispatch();
  const hover = useAppSelector((state) => (state.view.hover?.source === "run" ? state.view.hover.t : null));
  const [long, high] = course.size;
  const scale = Math.max(0.01, Math.min(width / long, height / high));
  const w = Math.floor(long * scale);
  const h = Math.floor(high * scale);
  const paint = (id: Course["ground"]) => targets.get(id)?.paint ?? "#808080";
  const pose = run ? momentOf(run, t) : { ...start, speed: 0, lamp: null, display: "", slipping: false, modeName: "" };

  const drawTrail = useCallback(
    (context: CanvasRenderingContext2D) => {
      if (run === null) return;
      const spots = trailOf(run);
      const paints = run.project.targets.map((target) => target.paint);
      context.strokeStyle = "#fff";
      context.lineWidth = 0.8;
      for (let k = 0; k < spots.t.length && spots.t[k] <= t; k++) {
        const seen = spots.seen[k];
        if (k % 3 !== 0) continue;
        context.fillStyle = seen === 0 ? "#9aa0a8" : paints[seen - 1];
        context.beginPath();
        context.arc(spots.x[k] * scale, h - spots.y[k] * scale, seen === 0 ? 1.6 : 3, 0, 7);
        context.fill();
        if (seen !== 0) context.stroke();
      }
    },
    [run, t, scale, h],
  );
  const hoverAt = (event: React.PointerEvent) => {
    if (run === null) return;
    const box = event.currentTarget.getBoundingClientRect();
    const spots = trailOf(run);
    const x = (event.clientX - box.left) / scale;
    const y = (box.bottom - event.clientY) / scale;
    let best = -1;
    let least = (12 / scale) ** 2;
    for (let k = 0; k < spots.t.length; k++) {
      const d = (spots.x[k] - x) ** 2 + (spots.y[k] - y) ** 2;
      if (d < least) {
        least = d;
        best = k;
      }
    }
    dispatch(hovered(best < 0 ? null : { source: "run", t: spots.t[best] }));
  };
  return (
    <Room ref={ref}>
      {width > 0 && (
        <>
          <Layer>
            <svg
              width={w}
              height={h}
              viewBox={`0 0 ${long} ${high}`}
              role="img"
              aria-label={`${course.name}, ${long / 10} by ${high / 10} cm, with ${course.patches.length} patches`}
              onPointerMove={hoverAt}
              onPointerLeave={() => dispatch(hovered(null))}
            >
              <g transform={`translate(0 ${high}) scale(1 -1)`}>
                <rect width={long} height={high} fill={paint(course.ground)} />
                <Tiles long={long} high={high} />
                {course.lines.map((line) => (
                  <polyline
                    key={line.points.join()}
                    points={line.points.map((p) => p.join(",")).join(" ")}
                    fill="none"
                    stroke={paint(line.target)}
                    strokeWidth={line.width}
                    strokeLinecap="round"
                    strokeLinejoin="round"
                  />
                ))}
                {course.patches.map((patch) => (
                  <PatchShape
                    key={`${patch.target} ${patch.at}`}
                    patch={patch}
                    paint={paint(patch.target)}
                    code={targets.get(patch.target)?.code ?? ""}
                  />
                ))}
                {course.starts.map((s) => (
                  <g
                    key={s.name}
                    transform={`translate(${s.x} ${s.y}) rotate(${s.heading})`}
                    stroke="#fff"
                    strokeWidth="4"
                    fill="none"
                    opacity={s.name === start.name ? 1 : 0.5}
                  >
                    <path d="M-40 -34H-62V34H-40" />
                  </g>
                ))}
              </g>
              <ScaleBar high={high} />
            </svg>
          </Layer>
          <Layer style={{ pointerEvents: "none" }}>
            <Canvas width={w} height={h} draw={drawTrail} />
          </Layer>
          <Layer style={{ pointerEvents: "none" }}>
            <svg width={w} height={h} viewBox={`0 0 ${long} ${high}`} aria-hidden>
              <g transform={`translate(0 ${high}) scale(1 -1)`}>
                {run && hover !== null && <HoverRing run={run} t={hover} />}
                <CartShape
                  robot={robot}
                  x={pose.x}
                  y={pose.y}
                  heading={pose.heading}
                  lamp={pose.lamp}
                  slipping={pose.slipping}
                />
              </g>
              {pose.display !== "" && (
                <text
                  x={pose.x}
                  y={high - pose.y - 105}
                  fontSize="36"
                  textAnchor="middle"
                  fill="#fff"
                  stroke="#111"
                  strokeWidth="8"
                  paintOrder="stroke"
                  fontFamily="Atkinson Hyperlegible Mono Variable"
                >
                  {pose.display}
                </text>
              )}
            </svg>
          </Layer>
        </>
      )}
    </Room>
  );
}

interface Trail {
  t: Float64Array;
  x: Float64Array;
  y: Float64Array;
  seen: Uint8Array;
}
const trails = new WeakMap<LastRun, Trail>();

/** Where the first sensor was at each of its readings, in mm. */
function trailOf(run: LastRun): Trail {
  const known = trails.get(run);
  if (known) return known;
  const { trace, project } = run;
  const [eye] = trace.eyes;
  const { t } = eye.readings;
  const [{ x: ahead, y: left }] = project.robot.mounts;
  const trail: Trail = { t, x: new Float64Array(t.length), y: new Float64Array(t.length), seen: eye.seen };
  for (let k = 0; k < t.length; k++) {
    const i = Math.round(t[k] / trace.tickMs);
    const heading = (trace.heading[i] * Math.PI) / 180;
    trail.x[k] = trace.x[i] + ahead * Math.cos(heading) - left * Math.sin(heading);
    trail.y[k] = trace.y[i] + ahead * Math.sin(heading) + left * Math.cos(heading);
  }
  trails.set(run, trail);
  return trail;
}

function HoverRing({ run, t }: { run: LastRun; t: number }) {
  const trail = trailOf(run);
  const k = trail.t.findLastIndex((at) => at <= t);
  return k < 0 ? null : <circle cx={trail.x[k]} cy={trail.y[k]} r="22" fill="none" stroke="#fff" strokeWidth="6" />;
}

/** The joints of the floor, every 30 cm. */
function Tiles({ long, high }: { long: number; high: number }) {
  const lines = [];
  for (let x = 300; x < long; x += 300) lines.push(`M${x} 0V${high}`);
  for (let y = 300; y < high; y += 300) lines.push(`M0 ${y}H${long}`);
  return <path d={lines.join("")} stroke="#fff" strokeOpacity="0.22" strokeWidth="3" fill="none" />;
}

function PatchShape({ patch, paint, code }: { patch: Patch; paint: string; code: string }) {
  const [x, y] = patch.at;
  const { shape, angle } = patch;
  return (
    <g transform={`translate(${x} ${y}) rotate(${angle})`}>
      {"disc" in shape ? (
        <circle r={shape.disc / 2} fill={paint} />
      ) : (
        <rect x={-shape.rect[0] / 2} y={-shape.rect[1] / 2} width={shape.rect[0]} height={shape.rect[1]} fill={paint} />
      )}
      <text
        transform={`rotate(${-angle}) scale(1 -1)`}
        fontSize="30"
        fontWeight="700"
        textAnchor="middle"
        y={"rect" in shape && shape.rect[1] > 100 ? shape.rect[1] / 2 - 10 : 10}
        fill={isDark(paint) ? "#fff" : "#111"}
        fontFamily="Atkinson Hyperlegible Mono Variable"
      >
        {code}
      </text>
    </g>
  );
}

function ScaleBar({ high }: { high: number }) {
  return (
    <g transform={`translate(40 ${high - 40})`} stroke="#fff" fill="none" strokeWidth="4">
      <path d="M0 -16V0H200V-16" />
      <text x="216" y="2" fontSize="34" fill="#fff" stroke="none" fontFamily="Atkinson Hyperlegible Mono Variable">
        20 cm
      </text>
    </g>
  );
}

function CartShape({
  robot,
  x,
  y,
  heading,
  lamp,
  slipping,
}: {
  robot: Robot;
  x: number;
  y: number;
  heading: number;
  lamp: string | null;
  slipping: boolean;
}) {
  const half = robot.trackMm / 2;
  const wheel = robot.wheelMm;
  const nose = Math.max(30, ...robot.mounts.map((m) => m.x));
  return (
    <g transform={`translate(${x} ${y}) rotate(${heading})`} stroke="#161616" strokeWidth="5">
      <rect
        x={-half * 1.2}
        y={-half * 0.85}
        width={half * 1.2 + nose - 14}
        height={half * 1.7}
        rx="14"
        fill="#f4f4f4"
      />
      <rect x={-wheel / 2} y={half - 9} width={wheel} height="20" fill="#161616" />
      <rect x={-wheel / 2} y={-half - 11} width={wheel} height="20" fill="#161616" />
      <circle cx={-half * 0.55} cy="0" r="16" fill={lamp ?? "#f4f4f4"} />
      {robot.mounts.map((m) => (
        <g key={m.sensor} transform={`translate(${m.x} ${m.y})`}>
          <circle r="17" fill="none" />
          <circle r="4" fill="#161616" />
        </g>
      ))}
      <path d={`M${nose + 30} 0h46m-16 -14l16 14l-16 14`} fill="none" stroke="#fff" />
      {slipping && (
        <path
          d={`M${-half * 1.5} ${half}h-40M${-half * 1.5} ${-half}h-40`}
          fill="none"
          stroke="#fff"
          strokeDasharray="10 8"
        />
      )}
    </g>
  );
}
