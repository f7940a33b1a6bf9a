import type { ArgsOf } from "@perceptum/core/edits";
import type { TargetId } from "@perceptum/core/names";
import { type Course, courseKindOf } from "@perceptum/core/world";
import { useEdit, useProject } from "../../hooks/project";
import { EntryField } from "../../ui/EntryField";
import { Dim } from "../../ui/layout";
import { NumberField } from "../../ui/NumberField";
import { Select } from "../../ui/Select";
import { COURSE_VIEWS } from "../courseViews";
import { CmField, FieldRow } from "./fields";
import { nameTaken } from "./nameTaken";

/** Name, ground and size of the course; how steady cards are held. */
export function CourseFields({ course }: { course: Course }) {
  const { targets, courses } = useProject();
  const edit = useEdit();
  const { ground, cardsAlone } = COURSE_VIEWS[course.kind];
  const set: SetPart = (change) => edit("changeCourse", { course: course.id, change });
  return (
    <>
      <FieldRow>
        <EntryField
          width={150}
          label="Name of the course"
          text={course.name}
          take={(text) => {
            const wrong = nameTaken(
              text,
              courses.map((c) => c.name),
              course.name,
            );
            return wrong ?? set({ name: text.trim() });
          }}
        />
        <Select
          label={ground}
          value={course.ground as string}
          options={targets.map((t) => ({ id: t.id as string, text: t.name }))}
          onChange={(id) => set({ ground: id as TargetId })}
        />
      </FieldRow>
      {courseKindOf(course).hasFloor && <SizeFields course={course} set={set} />}
      {(cardsAlone || course.cards.length > 0) && <SteadyFields course={course} set={set} />}
    </>
  );
}

type SetPart = (change: ArgsOf<"changeCourse">["change"]) => string | undefined;

function SizeFields({ course, set }: { course: Course; set: SetPart }) {
  return (
    <FieldRow>
      <CmField label="Length" mm={course.size[0]} low={1} onChange={(v) => set({ size: [v, course.size[1]] })} />
      by
      <CmField label="Depth" mm={course.size[1]} low={1} onChange={(v) => set({ size: [course.size[0], v] })} />
      cm
    </FieldRow>
  );
}

/** How steady cards are held. */
function SteadyFields({ course, set }: { course: Course; set: SetPart }) {
  return (
    <FieldRow>
      cards off by about
      <NumberField
        label="Jitter in mm"
        width={40}
        value={course.held.jitterMm}
        low={0}
        high={50}
        onChange={(v) => set({ held: { ...course.held, jitterMm: v } })}
      />
      mm, trembling by about
      <NumberField
        label="Tremble in mm"
        width={40}
        by={0.1}
        value={course.held.trembleMm}
        low={0}
        high={20}
        onChange={(v) => set({ held: { ...course.held, trembleMm: v } })}
      />
      mm <Dim>standard deviations</Dim>
    </FieldRow>
  );
}
