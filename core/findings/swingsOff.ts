import { isCamera } from "../readings";
import { bodyOnRail, looksAhead, type Mount, paintsOf, type RailCourse, RailWay, robotKindOf } from "../world";
import type { Finding, FindingKind } from "./finding";

/** Less than this off a plate's middle is no matter, in mm. */
const NO_MATTER = 1;

/** In a bend a sensor passes beside a plate's middle, so far that its spot does not lie wholly on it. */
export const swingsOff: FindingKind = {
  code: "swings-off",
  find({ project }) {
    const { robot, sensors, targets, courses } = project;
    if (!("bogieMm" in robot)) return [];
    const downward = robot.mounts.filter((mount) => mount.looks === "down");
    return courses.flatMap((course): Finding[] => {
      if (!("plates" in course)) return [];
      return course.plates.flatMap((plate, i) =>
        downward.flatMap((mount): Finding[] => {
          const sensor = sensors.find((s) => s.id === mount.sensor);
          if (sensor === undefined || isCamera(sensor)) return [];
          const off = besideMiddle(course, plate.at, robot.bogieMm, mount) - plate.aside;
          const room = plate.width / 2 - sensor.optics.spotMm / 2;
          if (Math.abs(off) <= Math.max(NO_MATTER, room) || !liesInBend(course, plate.at)) return [];
          const name = paintsOf(plate.target)
            .map((id) => targets.find((t) => t.id === id)?.name ?? id)
            .join(" or ");
          const to = Math.round(mount.y - off);
          return [
            {
              code: "swings-off",
              level: "warning",
              title: `${sensor.name} swings off ${name}, plate ${i + 1}`,
              sentence: `The plate lies in a bend, where the ${robotKindOf(robot).name} cuts the corner: the spot’s middle passes ${Math.abs(off).toFixed(0)} mm ${off > 0 ? "left" : "right"} of the plate’s, which is ${plate.width} mm wide. Mount the sensor ${Math.abs(to)} mm ${to < 0 ? "to the right" : "to the left"}, lay the plate ${Math.abs(off).toFixed(0)} mm ${off > 0 ? "to the left" : "to the right"}, or make the bend wider.`,
              place: { stage: "prove", course: course.id, about: `${mount.sensor} ${i}` },
            },
          ];
        }),
      );
    });
  },
};

const liesInBend = ({ rail }: RailCourse, at: number) =>
  new RailWay(rail).bends.some(({ from, to }) => at > from && at < to);

/** How far left of the rail's middle a sensor's spot passes the place so many mm along the rail. */
function besideMiddle({ rail }: RailCourse, at: number, bogieMm: number, mount: Mount): number {
  const way = new RailWay(rail);
  const ahead = mount.x + looksAhead(mount);
  const body = bodyOnRail(way, at - ahead, bogieMm, 1);
  const x = body.x + ahead * body.cos - mount.y * body.sin;
  const y = body.y + ahead * body.sin + mount.y * body.cos;
  const middle = way.at(at);
  return (y - middle.y) * middle.cos - (x - middle.x) * middle.sin;
}
