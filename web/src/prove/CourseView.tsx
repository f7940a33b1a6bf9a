import type { Course } from "@perceptum/core/world";
import { useCallback, useMemo } from "react";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { useProject, useTargets } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { usePublished } from "../hooks/usePublished";
import type { LastRun } from "../model/judging/Mentor";
import { hovered } from "../model/store/view";
import { amount } from "../ui/amount";
import { Canvas } from "../ui/Canvas";
import { NARROW } from "../ui/narrow";
import { useSize } from "../ui/useSize";
import { CourseShapes, CourseWords, groundInk, ScaleBar } from "./CourseShapes";
import { drawDots, drawLine, HoverRing, trailOf } from "./courseOverlays";
import type { CourseRunProps } from "./courseProps";
import { momentOf } from "./momentOf";
import { RobotShape } from "./RobotShape";
import { tellTrail } from "./tellTrail";

export const CourseRoom = styled.div`
  flex: 1;
  min-height: 0;
  position: relative;
  display: grid;
  place-items: center;
  ${NARROW} { min-height: 220px; }
`;

export const CourseLayer = styled.div`
  position: absolute;
`;

/** How large a course is drawn in the room that there is. */
export function fitted([long, high]: Course["size"], width: number, height: number) {
  const scale = Math.max(0.01, Math.min(width / long, height / high));
  return { scale, w: Math.floor(long * scale), h: Math.floor(high * scale) };
}

/** The course to scale, seen from above with y upwards; the robot where it is at time t, and its trail up to then. */
export function CourseView({ course, start, run, t, now: pose, face }: CourseRunProps) {
  const { ref, width, height } = useSize<HTMLDivElement>();
  const { robot, sensors } = useProject();
  const dispatch = useAppDispatch();
  const kept = usePublished(useSession().mentor.keptRun);
  const hover = useAppSelector((state) => (state.view.hover?.source === "run" ? state.view.hover.t : null));
  const [long, high] = course.size;
  const { scale, w, h } = fitted(course.size, width, height);
  const ghost = kept !== null && kept !== run && kept.trace.course.id === course.id ? kept : null;
  const ink = groundInk(useTargets().get(course.ground)?.paint);
  const held = run?.trace.course.cards.filter((card) => t >= card.atMs && t < card.atMs + card.forMs) ?? [];

  const trail = useMemo(() => (run === null ? null : trailOf(run)), [run]);
  const ghostTrail = useMemo(() => (ghost === null ? null : trailOf(ghost)), [ghost]);
  const drawTrail = useCallback(
    (context: CanvasRenderingContext2D) => {
      if (ghostTrail !== null) drawLine(context, ghostTrail, t, scale, h, ink);
      if (run !== null && trail !== null) drawDots(context, run, trail, t, scale, h);
    },
    [run, trail, ghostTrail, t, scale, h, ink],
  );
  const hoverAt = (event: React.PointerEvent) => {
    if (trail === null) return;
    const box = event.currentTarget.getBoundingClientRect();
    const x = (event.clientX - box.left) / scale;
    const y = (box.bottom - event.clientY) / scale;
    let best = -1;
    let least = (12 / scale) ** 2;
    for (let k = 0; k < trail.t.length; k++) {
      const d = (trail.x[k] - x) ** 2 + (trail.y[k] - y) ** 2;
      if (d < least) {
        least = d;
        best = k;
      }
    }
    dispatch(hovered(best < 0 ? null : { source: "run", t: trail.t[best] }));
  };
  const above = [pose.display, pose.picture ?? "", pose.sound].filter((text) => text !== "").join("  ");
  return (
    <>
      <CourseRoom ref={ref}>
        {width > 0 && (
          <>
            <CourseLayer>
              <svg
                width={w}
                height={h}
                viewBox={`0 0 ${long} ${high}`}
                role="img"
                aria-label={`${course.name}, ${long / 10} by ${high / 10} cm, with ${amount(course.patches.length, "patch", "patches")}`}
                aria-description={run === null ? undefined : tellTrail(run, t)}
                onPointerMove={hoverAt}
                onPointerLeave={() => dispatch(hovered(null))}
              >
                <g transform={`translate(0 ${high}) scale(1 -1)`}>
                  <CourseShapes course={run?.trace.course ?? course} start={start.name} />
                </g>
                <ScaleBar high={high} ink={ink} mmPerPixel={1 / scale} />
              </svg>
            </CourseLayer>
            <CourseLayer style={{ pointerEvents: "none" }}>
              <Canvas width={w} height={h} draw={drawTrail} />
            </CourseLayer>
            <CourseLayer style={{ pointerEvents: "none" }}>
              <svg
                width={w}
                height={h}
                viewBox={`0 0 ${long} ${high}`}
                aria-hidden
                style={{ ["--on-ground" as string]: ink }}
              >
                <g transform={`translate(0 ${high}) scale(1 -1)`}>
                  <CourseWords course={run?.trace.course ?? course} mmPerPixel={1 / scale} />
                  {trail && hover !== null && <HoverRing trail={trail} t={hover} />}
                  {ghost && (
                    <g opacity="0.4">
                      <RobotShape robot={ghost.project.robot} pose={momentOf(ghost, t, 0)} />
                    </g>
                  )}
                  <RobotShape
                    robot={run?.project.robot ?? robot}
                    pose={pose}
                    sensors={run?.project.sensors ?? sensors}
                  />
                  {held.map((card, i) => (
                    <HeldCard
                      key={`${card.atMs} ${card.target}`}
                      run={run}
                      target={card.target}
                      x={pose.x}
                      y={pose.y}
                      i={i}
                    />
                  ))}
                </g>
                {above !== "" && (
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
                    {above}
                  </text>
                )}
              </svg>
            </CourseLayer>
          </>
        )}
      </CourseRoom>
      {run !== null && face}
    </>
  );
}

function HeldCard({ run, target, x, y, i }: { run: LastRun | null; target: string; x: number; y: number; i: number }) {
  const paint = run?.project.targets.find((t) => t.id === target)?.paint ?? "#808080";
  return (
    <rect x={x + 60 + 20 * i} y={y + 60} width="70" height="100" rx="6" fill={paint} stroke="#fff" strokeWidth="6" />
  );
}
