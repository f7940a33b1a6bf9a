import type { TargetId } from "@perceptum/core/names";
import type { Target } from "@perceptum/core/rules";
import { type Course, paintsOf } from "@perceptum/core/world";
import type { CourseThing } from "../../state/prove";
import { placedOf } from "./courseEdit";

/** What a part of a course is, and where: `Coral tag, patch at 56, 40 cm`. */
export function thingWords(course: Course, thing: CourseThing, targets: ReadonlyMap<TargetId, Target>): string {
  const place = placedOf(course, thing);
  const at = place ? ` at ${cm(place.x)}, ${cm(place.y)} cm` : "";
  const { part, index } = thing;
  const painted = (target: Course["patches"][0]["target"]) =>
    paintsOf(target)
      .map((id) => targets.get(id)?.name ?? id)
      .join(" or ");
  switch (part) {
    case "patches":
    case "signs":
      return `${painted(course[part][index].target)}, ${part === "signs" ? "sign" : "patch"}${at}`;
    case "lines":
      return `${painted(course.lines[index].target)}, line from ${cm(place?.x ?? 0)}, ${cm(place?.y ?? 0)} cm`;
    case "zones":
      return `${course.zones[index].name}, zone${at}`;
    case "shade":
      return `Shade × ${course.shade[index].level}${at}`;
    case "starts":
      return `${course.starts[index].name}, start${at}`;
    case "cards":
      return `${painted(course.cards[index].target)}, card at ${course.cards[index].atMs / 1000} s`;
    case "presses":
      return `Button ${course.presses[index].button} at ${course.presses[index].atMs / 1000} s`;
  }
}

const cm = (mm: number) => String(Math.round(mm) / 10);
