import { type CourseId, freeId } from "@perceptum/core/names";
import styled from "styled-components";
import { useEdit, useProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { type ProveView, proveViewChosen, runChosen, thingChosen } from "../model/store/prove";
import { Button, Choice } from "../ui/Button";
import { Empty, Head, Spacer } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { NARROW } from "../ui/narrow";
import { Select } from "../ui/Select";
import { RunPane } from "./RunPane";

const Room = styled.div`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  height: 100%;
  ${NARROW} { height: auto; grid-template-rows: auto; }
`;
const Bar = styled(Head)`
  margin: 0;
  padding: 6px 12px;
  border-bottom: 1px solid ${({ theme }) => theme.rule};
`;
const VIEWS: readonly { id: ProveView; text: string }[] = [
  { id: "run", text: "One run" },
  { id: "course", text: "Edit course" },
  { id: "robot", text: "Robot" },
  { id: "sweep", text: "Sweep" },
];
const CoursePane = lazily(() => import("./course/CoursePane").then((m) => m.CoursePane));
const RobotPane = lazily(() => import("./RobotPane").then((m) => m.RobotPane));
const SweepPane = lazily(() => import("./sweep/SweepPane").then((m) => m.SweepPane));

/** Does it work? A run on a course, the course itself, the robot, and many runs. */
export function ProveStage() {
  const project = useProject();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const shown = useAppSelector((state) => state.prove.shown);
  const chosen = useAppSelector((state) => state.prove.course);
  const course = project.courses.find((c) => c.id === chosen) ?? project.courses[0];

  const choose = (id: CourseId) => {
    dispatch(runChosen({ course: id, start: null }));
    dispatch(thingChosen(null));
  };
  const add = () => {
    const ground = project.targets.find((t) => t.kind === "background") ?? project.targets[0];
    if (ground === undefined) return;
    const name = `Course ${project.courses.length + 1}`;
    const taken = project.courses.map((c) => c.id);
    const id = freeId<CourseId>(name, taken);
    edit("addCourse", { course: id, name, ground: ground.id });
    choose(id);
    dispatch(proveViewChosen("course"));
  };
  return (
    <Room>
      <Bar>
        <Choice label="Prove" value={shown} options={VIEWS} onChange={(view) => dispatch(proveViewChosen(view))} />
        <Spacer />
        {course !== undefined && (
          <Select
            label="Course"
            hideLabel
            value={course.id as string}
            options={project.courses.map((c) => ({ id: c.id as string, text: c.name }))}
            onChange={(id) => choose(id as CourseId)}
          />
        )}
        <Button why={project.targets.length === 0 && "Add a target first: the ground is of one."} onPress={add}>
          Add course
        </Button>
      </Bar>
      {shown === "robot" ? (
        <RobotPane />
      ) : course === undefined ? (
        <Empty style={{ padding: 20 }}>This project has no course yet. Add one, or open the demo.</Empty>
      ) : shown === "run" ? (
        <RunPane course={course} />
      ) : shown === "course" ? (
        <CoursePane course={course} />
      ) : (
        <SweepPane key={course.id} course={course} />
      )}
    </Room>
  );
}
