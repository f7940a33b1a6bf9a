import type { PartThing } from "@perceptum/core/edits";
import type { TargetId } from "@perceptum/core/names";
import type { Target } from "@perceptum/core/rules";
import { type Course, paintsOf } from "@perceptum/core/world";
import { placedOf } from "./courseEdit";

/** What a thing of a course is, and where: `Coral tag, patch at 56, 40 cm`. */
export function thingWords(course: Course, of: PartThing, targets: ReadonlyMap<TargetId, Target>): string {
  const place = placedOf(course, of);
  const at = place ? ` at ${cm(place.x)}, ${cm(place.y)} cm` : "";
  const painted = (target: Course["patches"][0]["target"]) =>
    paintsOf(target)
      .map((id) => targets.get(id)?.name ?? id)
      .join(" or ");
  switch (of.part) {
    case "patches":
      return `${painted(of.thing.target)}, patch${at}`;
    case "signs":
      return `${painted(of.thing.target)}, sign${at}`;
    case "plates":
      return `${painted(of.thing.target)}, plate ${cm(of.thing.at)} cm along`;
    case "lines":
      return `${painted(of.thing.target)}, line from ${cm(place?.x ?? 0)}, ${cm(place?.y ?? 0)} cm`;
    case "zones":
      return `${of.thing.name}, zone${at}`;
    case "shade":
      return `Shade × ${of.thing.level}${at}`;
    case "starts":
      return `${of.thing.name}, start${at}`;
    case "cards":
      return `${painted(of.thing.target)}, card at ${of.thing.atMs / 1000} s`;
    case "presses":
      return `Button ${of.thing.button} at ${of.thing.atMs / 1000} s`;
  }
}

const cm = (mm: number) => String(Math.round(mm) / 10);
