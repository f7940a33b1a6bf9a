import type { ProjectDocument, SensorId, TargetId } from "@perceptum/core/project";
import type { Course, Painted, Shape } from "@perceptum/core/world";
import styled from "styled-components";
import { useProject } from "../../state/project";
import type { CoursePart, CourseThing } from "../../state/view";
import { Button, QuietButton } from "../../ui/Button";
import { EntryField } from "../../ui/EntryField";
import { Head, Spacer, Title } from "../../ui/layout";
import { NumberField } from "../../ui/NumberField";
import { Select } from "../../ui/Select";
import { paintsOf } from "../CourseShapes";
import { pointAdded, pointMoved, pointRemoved, pointsOf } from "./courseEdit";

const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  align-items: center;
  font-size: 12px;
  margin-bottom: 5px;
  color: ${({ theme }) => theme.ink2};
`;

type SetCourse = (what: string, next: Course) => void;

const nameTaken = (text: string, taken: readonly string[], own: string) => {
  const name = text.trim();
  if (name === "" || name.length > 80) return "A name has 1 to 80 characters.";
  return name !== own && taken.includes(name) ? `“${name}” is already there.` : undefined;
};

/** Name, ground and size of the course; how steady cards are held. */
export function CourseFields({ course, onChange }: { course: Course; onChange: SetCourse }) {
  const { targets, courses } = useProject();
  const set = (what: string, part: Partial<Course>) => onChange(what, { ...course, ...part });
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
          label="ground"
          value={course.ground as string}
          options={targets.map((t) => ({ id: t.id as string, text: t.name }))}
          onChange={(id) => set("the ground", { ground: id as TargetId })}
        />
      </Line>
      <Line>
        <NumberField
          label="Length in cm"
          value={course.size[0] / 10}
          low={1}
          high={10_000}
          onChange={(v) => set("the size", { size: [v * 10, course.size[1]] })}
        />
        by
        <NumberField
          label="Depth in cm"
          value={course.size[1] / 10}
          low={1}
          high={10_000}
          onChange={(v) => set("the size", { size: [course.size[0], v * 10] })}
        />
        cm
        {course.cards.length > 0 && (
          <>
            ; cards ±
            <NumberField
              label="Jitter in mm"
              width={40}
              value={course.held.jitterMm}
              low={0}
              high={50}
              onChange={(v) => set("how steady cards are held", { held: { ...course.held, jitterMm: v } })}
            />
            mm, tremble
            <NumberField
              label="Tremble in mm"
              width={40}
              by={0.1}
              value={course.held.trembleMm}
              low={0}
              high={20}
              onChange={(v) => set("how steady cards are held", { held: { ...course.held, trembleMm: v } })}
            />
            mm
          </>
        )}
      </Line>
    </>
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
        <Button $small isDisabled={lastStart} onPress={onRemove}>
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
        // Checks that name the zone follow it.
        onChange("naming a zone", {
          ...course,
          zones: course.zones.map((z, i) => (i === index ? { ...z, name } : z)),
          checks: course.checks.map((c) => ("endsIn" in c && c.endsIn === one.name ? { endsIn: name } : c)),
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
            <NumberField
              label="Width in cm"
              value={one.width / 10}
              low={0.5}
              high={200}
              onChange={(v) => change(part, (s) => ({ ...s, width: v * 10 }))}
            />
            cm wide
            <NumberField
              label="Height in cm"
              value={one.height / 10}
              low={0.5}
              high={200}
              onChange={(v) => change(part, (s) => ({ ...s, height: v * 10 }))}
            />
            cm high
          </Line>
          <PlaceField at={one.at} angle={one.angle} onChange={(place) => change(part, (s) => ({ ...s, ...place }))} />
        </>
      );
    }
    case "shade": {
      const one = course.shade[index];
      const corner = (key: "from" | "to", k: 0 | 1, v: number) =>
        change(part, (s) => ({ ...s, [key]: k === 0 ? [v * 10, s[key][1]] : [s[key][0], v * 10] }));
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
            <NumberField
              label="First corner x in cm"
              value={one.from[0] / 10}
              low={-10_000}
              high={10_000}
              onChange={(v) => corner("from", 0, v)}
            />
            <NumberField
              label="First corner y in cm"
              value={one.from[1] / 10}
              low={-10_000}
              high={10_000}
              onChange={(v) => corner("from", 1, v)}
            />
            to
            <NumberField
              label="Other corner x in cm"
              value={one.to[0] / 10}
              low={-10_000}
              high={10_000}
              onChange={(v) => corner("to", 0, v)}
            />
            <NumberField
              label="Other corner y in cm"
              value={one.to[1] / 10}
              low={-10_000}
              high={10_000}
              onChange={(v) => corner("to", 1, v)}
            />
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
          <PlaceField
            at={[one.x, one.y]}
            angle={one.heading}
            onChange={({ at: [x, y], angle }) => change(part, (s) => ({ ...s, x, y, heading: angle }))}
          />
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

function Times({
  one,
  onChange,
}: {
  one: { atMs: number; forMs: number };
  onChange: (times: { atMs: number; forMs: number }) => void;
}) {
  return (
    <Line>
      at
      <NumberField
        label="At in s"
        value={one.atMs / 1000}
        low={0}
        high={3600}
        by={0.1}
        onChange={(v) => onChange({ ...one, atMs: Math.round(v * 1000) })}
      />
      s, for
      <NumberField
        label="For in s"
        value={one.forMs / 1000}
        low={0.01}
        high={3600}
        by={0.1}
        onChange={(v) => onChange({ ...one, forMs: Math.round(v * 1000) })}
      />
      s
    </Line>
  );
}

function TargetField(props: {
  label: string;
  project: ProjectDocument;
  value: TargetId;
  onChange: (target: TargetId) => void;
}) {
  const { label, project, value, onChange } = props;
  return (
    <Select
      label={label}
      value={value as string}
      options={project.targets.map((t) => ({ id: t.id as string, text: t.name }))}
      onChange={(id) => onChange(id as TargetId)}
    />
  );
}

/** What something is painted with: one target, or several of which the seed draws one. */
function PaintedField(props: { project: ProjectDocument; value: Painted; onChange: (value: Painted) => void }) {
  const { project, value, onChange } = props;
  const ids = paintsOf(value);
  const set = (next: readonly TargetId[]) => {
    const unique = [...new Set(next)];
    onChange(unique.length === 1 ? unique[0] : { oneOf: unique });
  };
  const free = project.targets.filter((t) => !ids.includes(t.id));
  return (
    <Line>
      {ids.map((id, k) => (
        <span key={id} style={{ display: "inline-flex", gap: 4 }}>
          <TargetField
            label={k === 0 ? "target" : "or"}
            project={project}
            value={id}
            onChange={(next) => set(ids.map((x, i) => (i === k ? next : x)))}
          />
          {ids.length > 1 && (
            <QuietButton aria-label={`Not ${id}`} onPress={() => set(ids.filter((x) => x !== id))}>
              ×
            </QuietButton>
          )}
        </span>
      ))}
      {free.length > 0 && (
        <Select
          label="or, drawn by the seed"
          hideLabel
          value={null}
          placeholder="or …"
          options={free.map((t) => ({ id: t.id as string, text: t.name }))}
          onChange={(id) => set([...ids, id as TargetId])}
        />
      )}
    </Line>
  );
}

function ShapeField({ shape, onChange }: { shape: Shape; onChange: (shape: Shape) => void }) {
  if ("polygon" in shape) return null;
  if ("disc" in shape)
    return (
      <Line>
        disc of
        <NumberField
          label="Diameter in cm"
          value={shape.disc / 10}
          low={0.1}
          high={10_000}
          onChange={(v) => onChange({ disc: v * 10 })}
        />
        cm
      </Line>
    );
  return (
    <Line>
      <NumberField
        label="Along in cm"
        value={shape.rect[0] / 10}
        low={0.1}
        high={10_000}
        onChange={(v) => onChange({ rect: [v * 10, shape.rect[1]] })}
      />
      by
      <NumberField
        label="Across in cm"
        value={shape.rect[1] / 10}
        low={0.1}
        high={10_000}
        onChange={(v) => onChange({ rect: [shape.rect[0], v * 10] })}
      />
      cm
    </Line>
  );
}

function PlaceField(props: {
  at: [number, number];
  angle: number;
  onChange: (place: { at: [number, number]; angle: number }) => void;
}) {
  const { at, angle, onChange } = props;
  return (
    <Line>
      at
      <NumberField
        label="x in cm"
        value={at[0] / 10}
        low={-10_000}
        high={10_000}
        onChange={(v) => onChange({ at: [v * 10, at[1]], angle })}
      />
      <NumberField
        label="y in cm"
        value={at[1] / 10}
        low={-10_000}
        high={10_000}
        onChange={(v) => onChange({ at: [at[0], v * 10], angle })}
      />
      cm, turned
      <NumberField
        label="Angle in degrees"
        width={48}
        value={angle}
        low={-3600}
        high={3600}
        by={5}
        onChange={(v) => onChange({ at, angle: v })}
      />
      °
    </Line>
  );
}

/** The points of a line or a polygon by their numbers. */
function Points({ course, thing, onChange }: { course: Course; thing: CourseThing; onChange: SetCourse }) {
  const points = pointsOf(course, thing);
  const least = thing.part === "lines" ? 2 : 3;
  return points.map(([x, y], k) => (
    <Line key={k}>
      {k + 1}.
      <NumberField
        label={`Point ${k + 1} x in cm`}
        value={x / 10}
        low={-10_000}
        high={10_000}
        onChange={(v) => onChange("a point", pointMoved(course, thing, k, [v * 10, y]))}
      />
      <NumberField
        label={`Point ${k + 1} y in cm`}
        value={y / 10}
        low={-10_000}
        high={10_000}
        onChange={(v) => onChange("a point", pointMoved(course, thing, k, [x, v * 10]))}
      />
      <QuietButton
        aria-label={`Add a point after point ${k + 1}`}
        isDisabled={thing.part === "lines" && k === points.length - 1}
        onPress={() => onChange("another point", pointAdded(course, thing, k))}
      >
        +
      </QuietButton>
      <QuietButton
        aria-label={`Remove point ${k + 1}`}
        isDisabled={points.length <= least}
        onPress={() => onChange("removing a point", pointRemoved(course, thing, k))}
      >
        ×
      </QuietButton>
    </Line>
  ));
}
