import type { SensorId, TargetId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import { type Course, type CoursePart, courseKindOf, renamedInCheck } from "@perceptum/core/world";
import { useProject } from "../../session/project";
import type { CourseThing } from "../../state/prove";
import { Button } from "../../ui/Button";
import { EntryField } from "../../ui/EntryField";
import { Dim, Head, Spacer, Title } from "../../ui/layout";
import { NumberField } from "../../ui/NumberField";
import { Select } from "../../ui/Select";
import { nameProblem, typedNumber } from "../../ui/typed";
import { COURSE_VIEWS } from "../courseViews";
import {
  CmField,
  Line,
  PaintedField,
  PlaceField,
  PointField,
  Points,
  type SetCourse,
  ShapeField,
  TargetField,
  Times,
} from "./fields";

const nameTaken = (text: string, taken: readonly string[], own: string) => {
  const name = text.trim();
  const problem = nameProblem(name);
  if (problem !== undefined) return problem;
  return name !== own && taken.includes(name) ? `“${name}” is already there.` : undefined;
};

/** Name, ground and size of the course; how steady cards are held. */
export function CourseFields({ course, onChange }: { course: Course; onChange: SetCourse }) {
  const { targets, courses } = useProject();
  const { ground, cardsAlone } = COURSE_VIEWS[course.kind];
  const set: SetPart = (what, part) => onChange(what, { ...course, ...part } as Course);
  return (
    <>
      <Line>
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
            if (wrong === undefined) set("naming the course", { name: text.trim() });
            return wrong;
          }}
        />
        <Select
          label={ground}
          value={course.ground as string}
          options={targets.map((t) => ({ id: t.id as string, text: t.name }))}
          onChange={(id) => set("the ground", { ground: id as TargetId })}
        />
      </Line>
      {courseKindOf(course).hasFloor && <SizeFields course={course} set={set} />}
      {(cardsAlone || course.cards.length > 0) && <SteadyFields course={course} set={set} />}
    </>
  );
}

type SetPart = (what: string, part: Partial<Course>) => void;

function SizeFields({ course, set }: { course: Course; set: SetPart }) {
  return (
    <Line>
      <CmField
        label="Length"
        mm={course.size[0]}
        low={1}
        onChange={(v) => set("the size", { size: [v, course.size[1]] })}
      />
      by
      <CmField
        label="Depth"
        mm={course.size[1]}
        low={1}
        onChange={(v) => set("the size", { size: [course.size[0], v] })}
      />
      cm
    </Line>
  );
}

/** How steady cards are held. */
function SteadyFields({ course, set }: { course: Course; set: SetPart }) {
  return (
    <Line>
      cards off by about
      <NumberField
        label="Jitter in mm"
        width={40}
        value={course.held.jitterMm}
        low={0}
        high={50}
        onChange={(v) => set("how steady cards are held", { held: { ...course.held, jitterMm: v } })}
      />
      mm, trembling by about
      <NumberField
        label="Tremble in mm"
        width={40}
        by={0.1}
        value={course.held.trembleMm}
        low={0}
        high={20}
        onChange={(v) => set("how steady cards are held", { held: { ...course.held, trembleMm: v } })}
      />
      mm <Dim>standard deviations</Dim>
    </Line>
  );
}

/** The numbers of the chosen part of a course. */
export function ThingFields(props: {
  course: Course;
  thing: CourseThing;
  onChange: SetCourse;
  onRemove: () => void;
  onDuplicate: () => void;
}) {
  const { course, thing, onChange, onRemove, onDuplicate } = props;
  const project = useProject();
  const change = <P extends CoursePart>(part: P, make: (one: Course[P][number]) => Course[P][number]) => {
    const things = course[part] as Course[P][number][];
    onChange("a part of the course", {
      ...course,
      [part]: things.map((one, i) => (i === thing.index ? make(one) : one)),
    });
  };
  const lastStart = thing.part === "starts" && course.starts.length === 1;
  return (
    <section aria-label="The chosen part" style={{ marginBottom: 10 }}>
      <Head style={{ marginBottom: 4 }}>
        <Title>Chosen</Title>
        <Spacer />
        <Button $small onPress={onDuplicate}>
          Duplicate
        </Button>
        <Button $small why={lastStart && "A course needs a start."} onPress={onRemove}>
          Remove
        </Button>
      </Head>
      <PartFields course={course} thing={thing} project={project} change={change} onChange={onChange} />
    </section>
  );
}

type Change = <P extends CoursePart>(part: P, make: (one: Course[P][number]) => Course[P][number]) => void;

function PartFields({
  course,
  thing,
  project,
  change,
  onChange,
}: {
  course: Course;
  thing: CourseThing;
  project: ProjectDocument;
  change: Change;
  onChange: SetCourse;
}) {
  const { part, index } = thing;
  switch (part) {
    case "patches": {
      const one = course.patches[index];
      return (
        <>
          <PaintedField
            project={project}
            value={one.target}
            onChange={(target) => change(part, (p) => ({ ...p, target }))}
          />
          <ShapeField shape={one.shape} onChange={(shape) => change(part, (p) => ({ ...p, shape }))} />
          <PlaceField at={one.at} angle={one.angle} onChange={(place) => change(part, (p) => ({ ...p, ...place }))} />
          <Points course={course} thing={thing} onChange={onChange} />
        </>
      );
    }
    case "zones": {
      const one = course.zones[index];
      const rename = (text: string) => {
        const wrong = nameTaken(
          text,
          course.zones.map((z) => z.name),
          one.name,
        );
        if (wrong !== undefined) return wrong;
        const name = text.trim();
        if (name.includes('"')) return "A zone’s name holds no quotes: checks write it between them.";
        // Checks that name the zone follow it.
        onChange("naming a zone", {
          ...course,
          zones: course.zones.map((z, i) => (i === index ? { ...z, name } : z)),
          checks: course.checks.map((c) => renamedInCheck(c, "zone", one.name, name)),
        });
        return undefined;
      };
      return (
        <>
          <Line>
            <EntryField width={150} label="Name of the zone" text={one.name} take={rename} />
          </Line>
          <ShapeField shape={one.shape} onChange={(shape) => change(part, (z) => ({ ...z, shape }))} />
          <PlaceField at={one.at} angle={one.angle} onChange={(place) => change(part, (z) => ({ ...z, ...place }))} />
          <Points course={course} thing={thing} onChange={onChange} />
        </>
      );
    }
    case "lines": {
      const one = course.lines[index];
      return (
        <>
          <Line>
            <TargetField
              label="target"
              project={project}
              value={one.target}
              onChange={(target) => change(part, (l) => ({ ...l, target }))}
            />
            width
            <NumberField
              label="Width in mm"
              value={one.width}
              low={1}
              high={1000}
              onChange={(width) => change(part, (l) => ({ ...l, width }))}
            />
            mm
          </Line>
          <Points course={course} thing={thing} onChange={onChange} />
        </>
      );
    }
    case "signs": {
      const one = course.signs[index];
      return (
        <>
          <PaintedField
            project={project}
            value={one.target}
            onChange={(target) => change(part, (s) => ({ ...s, target }))}
          />
          <Line>
            <CmField
              label="Width"
              mm={one.width}
              low={0.5}
              high={200}
              onChange={(width) => change(part, (s) => ({ ...s, width }))}
            />
            cm wide
            <CmField
              label="Height"
              mm={one.height}
              low={0.5}
              high={200}
              onChange={(height) => change(part, (s) => ({ ...s, height }))}
            />
            cm high
          </Line>
          <PlaceField at={one.at} angle={one.angle} onChange={(place) => change(part, (s) => ({ ...s, ...place }))} />
        </>
      );
    }
    case "shade": {
      const one = course.shade[index];
      return (
        <>
          <Line>
            light ×
            <NumberField
              label="Level"
              value={one.level}
              low={0}
              high={10}
              by={0.1}
              onChange={(level) => change(part, (s) => ({ ...s, level }))}
            />
          </Line>
          <Line>
            from
            <PointField of="First corner" at={one.from} onChange={(from) => change(part, (s) => ({ ...s, from }))} />
            to
            <PointField of="Other corner" at={one.to} onChange={(to) => change(part, (s) => ({ ...s, to }))} />
          </Line>
        </>
      );
    }
    case "starts": {
      const one = course.starts[index];
      return (
        <>
          <Line>
            <EntryField
              width={150}
              label="Name of the start"
              text={one.name}
              take={(text) => {
                const wrong = nameTaken(
                  text,
                  course.starts.map((s) => s.name),
                  one.name,
                );
                if (wrong === undefined) change(part, (s) => ({ ...s, name: text.trim() }));
                return wrong;
              }}
            />
          </Line>
          {"x" in one ? (
            <PlaceField
              at={[one.x, one.y]}
              angle={one.heading}
              onChange={({ at: [x, y], angle }) => change(part, (s) => ({ ...s, x, y, heading: angle }))}
            />
          ) : (
            "at" in one && (
              <Line>
                <CmField
                  label="Along the rail"
                  mm={one.at}
                  low={0}
                  onChange={(at) => change(part, (s) => ({ ...s, at }))}
                />
                cm along,
                <Select
                  label="facing"
                  value={one.facing}
                  options={[
                    { id: "forward", text: "forward" },
                    { id: "back", text: "back" },
                  ]}
                  onChange={(facing) => change(part, (s) => ({ ...s, facing }))}
                />
              </Line>
            )
          )}
        </>
      );
    }
    case "cards": {
      const one = course.cards[index];
      return (
        <>
          <PaintedField
            project={project}
            value={one.target}
            onChange={(target) => change(part, (c) => ({ ...c, target }))}
          />
          <Times one={one} onChange={(times) => change(part, (c) => ({ ...c, ...times }))} />
          <Line>
            at a height of
            <EntryField
              mono
              label="Height in mm"
              text={one.heightMm === undefined ? "" : String(one.heightMm)}
              placeholder="best"
              take={(text) => {
                const heightMm = text.trim() === "" ? undefined : typedNumber(text);
                if (heightMm !== undefined && !(heightMm >= 0 && heightMm <= 500))
                  return "A height lies from 0 to 500 mm; without one it is the sensor’s best. It stays as it was.";
                change(part, ({ heightMm: _, ...c }) => ({ ...c, ...(heightMm !== undefined && { heightMm }) }));
                return undefined;
              }}
            />
            mm
          </Line>
          <Line>
            <Select
              label="before"
              value={(one.sensor ?? project.robot.mounts[0].sensor) as string}
              options={project.robot.mounts.map((m) => ({
                id: m.sensor as string,
                text: project.sensors.find((s) => s.id === m.sensor)?.name ?? m.sensor,
              }))}
              onChange={(id) => change(part, (c) => ({ ...c, sensor: id as SensorId }))}
            />
          </Line>
        </>
      );
    }
    case "presses": {
      const one = course.presses[index];
      return (
        <>
          <Line>
            <Select
              label="button"
              value={one.button}
              options={project.robot.buttons.map((b) => ({ id: b, text: b }))}
              onChange={(button) => change(part, (p) => ({ ...p, button }))}
            />
          </Line>
          <Times one={one} onChange={(times) => change(part, (p) => ({ ...p, ...times }))} />
        </>
      );
    }
  }
}
