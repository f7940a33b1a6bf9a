import styled from "styled-components";
import { useProject, useTargets } from "../../hooks/project";
import { useSize } from "../../ui/useSize";
import type { CourseRunProps } from "../courseProps";
import { BeltDrawing } from "./BeltDrawing";
import { beltScene, tellBelt } from "./beltScene";

export const BeltRoom = styled.div`
  flex: 1;
  min-height: 0;
  position: relative;
  overflow: hidden;
  background: ${({ theme }) => theme.sheet};
  border: 1px solid ${({ theme }) => theme.rule};
  & > svg { position: absolute; }
`;

/** A run on a belt: pieces, sensors, gates and crates at time t. */
export function BeltView({ course, run, t, face }: CourseRunProps) {
  const project = useProject();
  const targets = useTargets();
  const { ref, width, height } = useSize<HTMLDivElement>();
  const { robot, sensors } = run?.project ?? project;
  const scene = beltScene(robot, course, run?.trace ?? null, t);
  const own = robot.mounts.map((mount) => sensors.find((sensor) => sensor.id === mount.sensor));
  const seen = robot.mounts.map((_, i) => {
    const eye = run?.trace.eyes[i];
    const k = eye === undefined ? -1 : eye.readings.t.findLastIndex((at) => at <= t);
    if (k < 0 || eye === undefined) return undefined;
    return eye.seen[k] === 0 ? "unknown" : run?.trace.targets[eye.seen[k] - 1];
  });
  return (
    <>
      <BeltRoom ref={ref}>
        <svg
          width={width}
          height={height}
          role="img"
          aria-label={`${course.name}: ${tellBelt(scene, course.size[0], (id) => targets.get(id as never)?.name ?? id)}`}
        >
          {width > 0 && (
            <BeltDrawing
              robot={robot}
              course={course}
              scene={scene}
              seen={seen}
              names={own.map((sensor) => sensor?.name ?? "")}
              spots={own.map((sensor) => sensor?.optics.spotMm ?? 0)}
              width={width}
              height={height}
            />
          )}
        </svg>
      </BeltRoom>
      {face}
    </>
  );
}
