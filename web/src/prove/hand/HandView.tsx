import { cardsNow, heldAtMm } from "@perceptum/core/world";
import styled from "styled-components";
import { useProject, useTargets } from "../../hooks/project";
import { useSize } from "../../ui/useSize";
import type { CourseRunProps } from "../courseProps";
import { bestOf, groundBefore, reachOf } from "./before";
import { HeldTimes } from "./HeldTimes";
import { type Before, SensorSide } from "./SensorSide";

const Room = styled.div`
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template: minmax(0, 1fr) 132px / 210px minmax(0, 1fr);
  gap: 1px;
  background: ${({ theme }) => theme.rule};
  border: 1px solid ${({ theme }) => theme.rule};
  & > * { background: ${({ theme }) => theme.sheet}; min-width: 0; min-height: 0; position: relative; overflow: hidden; }
  & > div > svg { position: absolute; }
`;
const Times = styled.div`
  grid-column: 1 / 3;
`;

/** A run by hand: the sensors from the side with the card before each, what the robot shows, and the cards over time. */
export function HandView({ course: built, run, t, face }: CourseRunProps) {
  const project = useProject();
  const targets = useTargets();
  const sides = useSize<HTMLDivElement>();
  const times = useSize<HTMLDivElement>();
  const { robot, sensors } = run?.project ?? project;
  const course = run?.trace.course ?? built;
  const best = bestOf(course, robot, sensors);
  const heights = course.cards.map((_, i) => heldAtMm(course, i, run?.trace.seed ?? 1, best(i)));
  const reach = reachOf([...heights, ...robot.mounts.map((mount) => mount.z)]);
  const wide = sides.width / robot.mounts.length;
  const words: string[] = [];
  const columns = robot.mounts.flatMap((mount, i) => {
    const sensor = sensors.find((s) => s.id === mount.sensor);
    if (sensor === undefined) return [];
    const index = run === null ? undefined : cardsNow(course, t, mount.sensor, robot.mounts[0].sensor).at(-1);
    const before: Before | null =
      index === undefined
        ? groundBefore(mount, targets.get(course.ground))
        : { target: targets.get(course.cards[index].target as never), mm: heights[index] };
    const eye = run?.trace.eyes[i];
    const k = eye === undefined ? -1 : eye.readings.t.findLastIndex((at) => at <= t);
    const id = k < 0 || eye === undefined || eye.seen[k] === 0 ? undefined : run?.trace.targets[eye.seen[k] - 1];
    const seen = k < 0 ? undefined : ((id && targets.get(id)) ?? "unknown");
    words.push(
      `${sensor.name}: ${before === null ? "nothing before it" : `${before.target?.name} at ${before.mm.toFixed(0)} mm`}` +
        (seen === undefined ? "" : `, taken for ${seen === "unknown" ? "nothing known" : seen.name}`),
    );
    return [
      <g key={mount.sensor} transform={`translate(${wide * (i + 0.5)} 0)`}>
        <SensorSide sensor={sensor} reach={reach} width={wide} height={sides.height} before={before} seen={seen} />
      </g>,
    ];
  });
  return (
    <Room>
      <div>{face}</div>
      <div ref={sides.ref}>
        <svg width={sides.width} height={sides.height} role="img" aria-label={words.join("; ")}>
          {columns}
        </svg>
      </div>
      <Times ref={times.ref}>
        <svg
          width={times.width}
          height={times.height}
          role="img"
          aria-label={`${course.name}, ${course.cards.length} cards and ${course.presses.length} presses over time`}
        >
          <HeldTimes
            course={course}
            bestOf={best}
            reach={reach}
            width={times.width}
            height={times.height}
            t={run === null ? undefined : t}
          />
        </svg>
      </Times>
    </Room>
  );
}
