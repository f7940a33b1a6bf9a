import { type CourseId, cutName, freeId, unusedName } from "@perceptum/core/names";
import { type Course, courseKindOf } from "@perceptum/core/world";
import { useState } from "react";
import { useEdit, useProject } from "../../session/project";
import { type CourseThing, runChosen, thingChosen } from "../../state/prove";
import { useAppDispatch, useAppSelector } from "../../state/store";
import { Button } from "../../ui/Button";
import { Wrong } from "../../ui/EntryField";
import { FileButton } from "../../ui/FileButton";
import { Dim, Head, Pane, Spacer, StageGrid, Title } from "../../ui/layout";
import { lazily } from "../../ui/lazily";
import { Select } from "../../ui/Select";
import { CheckList } from "../CheckList";
import { COURSE_VIEWS } from "../courseViews";
import { ADDABLE, type Addable, added, duplicated, removed } from "./courseEdit";
import { PartList } from "./PartList";
import { CourseFields, ThingFields } from "./ThingFields";

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
  const thing = chosen !== null && course[chosen.part][chosen.index] !== undefined ? chosen : null;

  const set = (what: string, next: Course, gesture?: string) =>
    edit(what, (p) => ({ ...p, courses: p.courses.map((c) => (c.id === course.id ? next : c)) }), gesture);
  const choose = (next: CourseThing | null) => {
    setWrong(undefined);
    dispatch(thingChosen(next));
  };
  const add = (what: Addable) => {
    const made = added(course, what, project.targets, lastTarget, project.robot.buttons[0]);
    if (made === undefined) return;
    set(`a new ${ADDABLE[what].text}`, made.course);
    choose(made.thing);
  };
  const remove = (which: CourseThing) => {
    const zone = which.part === "zones" ? course.zones[which.index] : undefined;
    if (zone !== undefined && course.checks.some((check) => "endsIn" in check && check.endsIn === zone.name))
      return setWrong(`A check names the zone ${zone.name}, so it stays. Change or remove the check first.`);
    setWrong(undefined);
    set("removing a part of the course", removed(course, which));
    choose(null);
  };
  const duplicate = (which: CourseThing) => {
    const made = duplicated(course, which);
    set("duplicating a part of the course", made.course);
    choose(made.thing);
  };
  const copy = () => {
    const name = unusedName(cutName(course.name, ", copy"), project.courses);
    const id = freeId<CourseId>(
      name,
      project.courses.map((c) => c.id),
    );
    edit(`copying ${course.name}`, (p) => {
      const at = p.courses.findIndex((c) => c.id === course.id);
      return { ...p, courses: p.courses.toSpliced(at + 1, 0, { ...course, id, name }) };
    });
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
          {hasFloor && (
            <FileButton
              text="From a picture …"
              accept="image/png"
              label="Picture of a course"
              onFiles={([file]) => setPicture(file)}
            />
          )}
          <Dim style={{ fontSize: 12 }}>{hint}</Dim>
          <Spacer />
        </Head>
        <Edit
          course={course}
          thing={thing}
          onChoose={choose}
          onChange={set}
          onRemove={remove}
          onDuplicate={duplicate}
        />
      </Pane>
      <Pane aria-label="What is on the course">
        <CourseFields course={course} onChange={set} />
        {Fields !== undefined && <Fields course={course} onChange={set} />}
        <Head style={{ marginTop: 8 }}>
          <Title>On it</Title>
          <Spacer />
          <Button $small onPress={copy}>
            Copy course
          </Button>
          <Button
            $small
            why={onlyOne && "It is the only course."}
            onPress={() =>
              edit(`deleting ${course.name}`, (p) => ({ ...p, courses: p.courses.filter((c) => c.id !== course.id) }))
            }
          >
            Delete course
          </Button>
        </Head>
        <PartList course={course} thing={thing} onChoose={choose} />
        {thing !== null && (
          <ThingFields
            key={`${thing.part} ${thing.index}`}
            course={course}
            thing={thing}
            onChange={set}
            onRemove={() => remove(thing)}
            onDuplicate={() => duplicate(thing)}
          />
        )}
        {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
        <CheckList course={course} run={null} t={0} stale={false} />
      </Pane>
      {picture !== null && (
        <PictureSheet isOpen file={picture} course={course} onChange={set} onClose={() => setPicture(null)} />
      )}
    </StageGrid>
  );
}
