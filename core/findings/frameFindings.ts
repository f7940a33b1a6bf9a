import { isCamera, isSrgb } from "../readings";
import { cameraTapes, stripIn } from "../vision";
import { type Finding, type FindingKind, nameOf } from "./finding";

/** Boxes of a target that lie outside the strip: what they show is never looked for. */
export const stripMisses: FindingKind = {
  code: "strip-misses",
  find({ project }) {
    return project.sensors.flatMap((sensor): Finding[] => {
      if (!isCamera(sensor) || sensor.strip === undefined) return [];
      const strip = stripIn(sensor.frame, sensor.strip);
      const boxes = cameraTapes(project).flatMap(({ tape }) => (tape.sensor === sensor.id ? (tape.boxes ?? []) : []));
      return project.targets.flatMap((target): Finding[] => {
        if (target.kind === "background") return [];
        const own = boxes.filter((box) => box.target === target.id);
        const outside = own.filter(
          (box) =>
            box.top >= strip.bottom ||
            box.top + box.height <= strip.top ||
            box.left >= strip.right ||
            box.left + box.width <= strip.left,
        );
        if (own.length === 0 || outside.length * 2 <= own.length) return [];
        const wide = {
          top: Math.min(strip.top, ...own.map((box) => box.top)),
          bottom: Math.max(strip.bottom, ...own.map((box) => box.top + box.height)),
          left: Math.min(strip.left, ...own.map((box) => box.left)),
          right: Math.max(strip.right, ...own.map((box) => box.left + box.width)),
        };
        return [
          {
            code: "strip-misses",
            level: "warning",
            title: `The strip of ${sensor.name} misses ${target.name}`,
            sentence: `${outside.length} of its ${own.length} boxes lie outside rows ${strip.top} to ${strip.bottom} and columns ${strip.left} to ${strip.right}, where nothing is looked for. Rows ${wide.top} to ${wide.bottom} and columns ${wide.left} to ${wide.right} have them all.`,
            place: { stage: "sense", target: target.id, about: sensor.id },
            fix: { label: "Widen the strip", change: { sensor: sensor.id, strip: wide } },
          },
        ];
      });
    });
  },
};

/** In so many frames of a tape something must be so before it is told. */
const ENOUGH = 2;

/** Thin blobs where nothing is cleaned, and boxes of what cleaning takes away whole. */
export const fringe: FindingKind = {
  code: "fringe",
  find({ project, frames }) {
    return cameraTapes(project).flatMap(({ tape, sensor }): Finding[] => {
      const { erode } = sensor.clean;
      const facts = frames.find((f) => f.tape === tape.id)?.targets ?? [];
      const thin = facts.flatMap(({ target, thin, frames: n }): Finding[] =>
        erode > 0 || thin < ENOUGH
          ? []
          : [
              {
                code: "fringe",
                level: "warning",
                title: `Thin fringes are taken for ${nameOf(project, target)}`,
                sentence: `In ${thin} of the ${n} frames of ${tape.name} that have a blob of it, one is thinner than 3 px: mostly the edge of something else. Cleaning by 1 px takes such blobs away.`,
                place: { stage: "sense", target, about: sensor.id },
                fix: {
                  label: "Clean by 1 px",
                  change: { sensor: sensor.id, clean: { erode: 1, dilate: Math.max(1, sensor.clean.dilate) } },
                },
              },
            ],
      );
      const side = 2 * erode + 1;
      const gone = project.targets.flatMap((target): Finding[] => {
        const own = (tape.boxes ?? []).filter((box) => box.target === target.id);
        const lost = own.filter((box) => Math.min(box.width, box.height) < side);
        if (target.kind === "background" || lost.length < ENOUGH || lost.length * 2 <= own.length) return [];
        return [
          {
            code: "fringe",
            level: "warning",
            title: `Cleaning takes ${target.name} away`,
            sentence: `${lost.length} of its ${own.length} boxes on ${tape.name} are thinner than ${side} px, and what is thinner than that is taken off by an erosion of ${erode} px.`,
            place: { stage: "sense", target: target.id, about: sensor.id },
            fix: {
              label: `Clean by ${erode - 1} px`,
              change: { sensor: sensor.id, clean: { ...sensor.clean, erode: erode - 1 } },
            },
          },
        ];
      });
      return erode > 0 ? gone : thin;
    });
  },
};

/** Pictures on the tapes of a camera whose values are said to be linear: the simulated one gives others then. */
export const picturesNotLinear: FindingKind = {
  code: "pictures-not-linear",
  find({ project }) {
    return project.sensors.flatMap((sensor): Finding[] => {
      if (!isCamera(sensor) || isSrgb(sensor)) return [];
      const taken = project.tapes.filter(
        ({ sensor: own, origin, frames }) =>
          own === sensor.id && frames !== undefined && (origin === "import" || origin === "live"),
      );
      if (taken.length === 0) return [];
      const names = taken.slice(0, 2).map(({ name }) => name);
      return [
        {
          code: "pictures-not-linear",
          level: "hint",
          title: `${sensor.name} has pictures, but its values are linear`,
          sentence: `${names.join(" and ")}${taken.length > 2 ? ` and ${taken.length - 2} more` : ""} ${taken.length === 1 ? "holds" : "hold"} pictures, whose values are sRGB: dark things are brighter on them than on the simulated camera, so rules taught by one fail on the other. With sRGB the simulated camera gives what pictures give; rules that were taught by its frames of before do not fit then.`,
          place: { stage: "sense", about: sensor.id },
          fix: { label: "Take its values as sRGB", change: { sensor: sensor.id, values: "srgb" } },
        },
      ];
    });
  },
};

/** A second blob nearly as large as the first: which of them is meant may change from frame to frame. */
export const twoBlobs: FindingKind = {
  code: "two-blobs",
  find({ project, frames }) {
    return cameraTapes(project).flatMap(({ tape, sensor }): Finding[] =>
      (frames.find((f) => f.tape === tape.id)?.targets ?? []).flatMap(({ target, doubled, frames: n }): Finding[] =>
        doubled < ENOUGH
          ? []
          : [
              {
                code: "two-blobs",
                level: "hint",
                title: `There are two blobs of ${nameOf(project, target)}`,
                sentence: `In ${doubled} of the ${n} frames of ${tape.name} that have one, a second is at least half as large. Width, place and error are those of the largest, which may be another one in the next frame. A narrower strip, tighter bands or a larger least area leave one of them.`,
                place: { stage: "sense", target, about: `${sensor.id} ${tape.id}` },
              },
            ],
      ),
    );
  },
};
