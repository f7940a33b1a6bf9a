import type { Finding, FindingKind } from "./finding";

/** A height that differs by less than this, in mm and as a share, is the same to a sensor. */
const MM = 5;
const SHARE = 0.25;

/** Marks were taken with the sensor at another height than it is mounted at: it reads something else there. */
export const otherHeight: FindingKind = {
  code: "other-height",
  find({ project, tapes }) {
    return project.robot.mounts.flatMap((mount): Finding[] => {
      const sensor = project.sensors.find((s) => s.id === mount.sensor);
      if (sensor === undefined || mount.looks !== "down") return [];
      const heights = tapes
        .filter((tape) => tape.sensor.id === sensor.id)
        .flatMap(({ head }) => head.marks.flatMap((mark) => mark.height ?? []))
        .sort((a, b) => a - b);
      const usual = heights[heights.length >> 1];
      if (usual === undefined) return [];
      // One tape taken at this height is enough: the others may be tries.
      const least = Math.max(MM, SHARE * usual);
      if (heights.some((height) => Math.abs(height - mount.z) <= least)) return [];
      return [
        {
          code: "other-height",
          level: "warning",
          title: `${sensor.name} is mounted elsewhere than it was taught`,
          sentence: `Its marks were taken at ${usual} mm over the ground, and on ${project.robot.name} it hangs at ${mount.z} mm, where it reads otherwise. Mount it as it was, or record once more.`,
          place: { stage: "prove", about: sensor.id },
          fix: { label: `Mount it at ${usual} mm`, change: { mounted: sensor.id, z: usual } },
        },
      ];
    });
  },
};
