import type { PartThing } from "@perceptum/core/edits";
import { type CourseId, cutName, freeId, unusedName } from "@perceptum/core/names";
import { type Course, type CoursePart, courseKindOf } from "@perceptum/core/world";
import { useState } from "react";
import { useEdit, useProject } from "../../hooks/project";
import { useAppDispatch, useAppSelector } from "../../hooks/store";
import { runChosen, thingChosen } from "../../model/store/prove";
import { Button } from "../../ui/Button";
import { Wrong } from "../../ui/EntryField";
import { FileButton } from "../../ui/FileButton";
import { Dim, Head, Pane, Spacer, StageGrid, Title } from "../../ui/layout";
import { lazily } from "../../ui/lazily";
import { Select } from "../../ui/Select";
import { CheckList } from "../CheckList";
import { COURSE_VIEWS } from "../courseViews";
import { CourseFields } from "./CourseFields";
import { ADDABLE, type Addable, added, duplicated, thingIn } from "./courseEdit";
import { PartList } from "./PartList";
import { ThingFields } from "./ThingFields";

const PictureSheet = lazily(() => import("./PictureSheet").then((m) => m.PictureSheet));

/** The course drawn and changed: things are dragged, sized, turned and typed; its checks stand beside. */
export function CoursePane({ course }: { course: Course }) {
  const project = useProject();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const chosen = useAppSelector((state) => state.prove.thing);
  const lastTarget = useAppSelector((state) => state.view.target);
  const [wrong, setWrong] = useState<string>();
  const [picture, setPicture] = useState<File | null>(null);
  const thing = (chosen && thingIn(course, chosen)) ?? null;

  const choose = (next: PartThing | null) => {
    setWrong(undefined);
    dispatch(thingChosen(next && { part: next.part as CoursePart, id: next.thing.id }));
  };
  const add = (what: Addable) => {
    const made = added(course, what, project.targets, lastTarget, project.robot.buttons[0]);
    if (made === undefined) return;
    edit("addThing", { course: course.id, of: made });
    choose(made);
  };
  const remove = ({ part, thing: { id } }: PartThing) => {
    const refused = edit("deleteThing", { course: course.id, part, thing: id });
    setWrong(refused);
    if (refused === undefined) choose(null);
    return refused === undefined;
  };
  const duplicate = (which: PartThing) => {
    const made = duplicated(course, which);
    edit("addThing", { course: course.id, of: made });
    choose(made);
  };
  const copy = () => {
    const name = unusedName(cutName(course.name, ", copy"), project.courses);
    const id = freeId<CourseId>(
      name,
      project.courses.map((c) => c.id),
    );
    edit("copyCourse", { course: course.id, copy: id, name });
    dispatch(runChosen({ course: id, start: null }));
    choose(null);
  };
  const { hasFloor, parts } = courseKindOf(course);
  const { Edit, Fields, hint } = COURSE_VIEWS[course.kind];
  const onlyOne = project.courses.length === 1;
  return (
    <StageGrid $columns="minmax(0, 1fr) 330px">
      <Pane aria-label="The course to edit">
        <Head>
          <Select
            label="Add to the course"
            hideLabel
            value={null}
            placeholder="Add …"
            options={Object.entries(ADDABLE)
              .filter(
                ([, { part }]) => parts.includes(part) && (part !== "presses" || project.robot.buttons.length > 0),
              )
              .map(([id, { text }]) => ({ id: id as Addable, text }))}
            onChange={add}
          />
          {hasFloor && <FileButton text="From a picture …" accept="image/png" onFiles={([file]) => setPicture(file)} />}
          <Dim style={{ fontSize: 12 }}>{hint}</Dim>
          <Spacer />
        </Head>
        <Edit course={course} thing={thing} onChoose={choose} onRemove={remove} onDuplicate={duplicate} />
      </Pane>
      <Pane aria-label="What is on the course">
        <CourseFields course={course} />
        {Fields !== undefined && <Fields course={course} />}
        <Head style={{ marginTop: 8 }}>
          <Title>On it</Title>
          <Spacer />
          <Button $small onPress={copy}>
            Copy course
          </Button>
          <Button
            $small
            why={onlyOne && "It is the only course."}
            onPress={() => edit("deleteCourse", { course: course.id })}
          >
            Delete course
          </Button>
        </Head>
        <PartList course={course} thing={thing} onChoose={choose} />
        {thing !== null && (
          <ThingFields
            key={`${thing.part} ${thing.thing.id}`}
            course={course}
            of={thing}
            onRemove={() => remove(thing)}
            onDuplicate={() => duplicate(thing)}
          />
        )}
        {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
        <CheckList course={course} run={null} t={0} stale={false} />
      </Pane>
      {picture !== null && <PictureSheet isOpen file={picture} course={course} onClose={() => setPicture(null)} />}
    </StageGrid>
  );
}
