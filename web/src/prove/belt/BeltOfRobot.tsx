import type { Course } from "@perceptum/core/world";
import { useProject } from "../../hooks/project";
import { useSize } from "../../ui/useSize";
import { BeltDrawing } from "./BeltDrawing";
import { BeltRoom } from "./BeltView";
import { beltScene } from "./beltScene";

/** A belt as it is before a run, with its pieces or without them. */
export function StillBelt({ course, label, bare = false }: { course: Course; label: string; bare?: boolean }) {
  const { robot, sensors } = useProject();
  const { ref, width, height } = useSize<HTMLDivElement>();
  const scene = beltScene(robot, course, null, 0);
  const own = robot.mounts.map((mount) => sensors.find((sensor) => sensor.id === mount.sensor));
  return (
    <BeltRoom ref={ref}>
      <svg width={width} height={height} role="img" aria-label={label}>
        {width > 0 && (
          <BeltDrawing
            robot={robot}
            course={course}
            scene={bare ? { ...scene, pieces: [] } : scene}
            seen={own.map(() => undefined)}
            names={own.map((sensor) => sensor?.name ?? "")}
            spots={own.map((sensor) => sensor?.optics.spotMm ?? 0)}
            width={width}
            height={height}
          />
        )}
      </svg>
    </BeltRoom>
  );
}

/** A sorter on its sheet: the belt of the first course with its gates and crates. */
export function BeltOfRobot() {
  const { robot, courses } = useProject();
  const [course] = courses;
  return course === undefined ? null : <StillBelt bare course={course} label={`${robot.name} from above`} />;
}
