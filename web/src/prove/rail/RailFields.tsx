import type { TargetId } from "@perceptum/core/names";
import { type Course, type Plate, type RailCourse, type RailSection, RailWay } from "@perceptum/core/world";
import { useState } from "react";
import { useEdit, useProject } from "../../hooks/project";
import { Button, QuietButton } from "../../ui/Button";
import { Wrong } from "../../ui/EntryField";
import { Group } from "../../ui/fields";
import { Dim, Head, Spacer, Title } from "../../ui/layout";
import { NumberField } from "../../ui/NumberField";
import { Select } from "../../ui/Select";
import { CmField, FieldRow, PaintedField, PlaceField } from "../course/fields";
import { type CourseRail, closed, newPlate, plateAt, withWay } from "./railEdit";

/** What a course on a rail has beside a floor's: the way of the rail section by section, and the plates along it. */
export function RailFields({ course }: { course: Course }) {
  if (!("rail" in course)) return null;
  return (
    <>
      <Way course={course} />
      <Plates course={course} />
    </>
  );
}

function Way({ course }: { course: RailCourse }) {
  const edit = useEdit();
  const [wrong, setWrong] = useState<string>();
  const { way, closed: isClosed } = course.rail;
  const put = (rail: CourseRail) => setWrong(edit("setRail", { course: course.id, rail }));
  const set = (next: RailSection[]) => put(withWay(course.rail, next));
  const close = () => {
    const made = closed(course.rail);
    if (typeof made === "string") setWrong(made);
    else put(made);
  };
  return (
    <section aria-label="The rail">
      <Head style={{ margin: "8px 0 4px" }}>
        <Title>Rail</Title>
        <Dim style={{ fontSize: 12 }}>
          {(new RailWay(course.rail).length / 1000).toFixed(2)} m, {isClosed ? "closed" : "open"}
        </Dim>
        <Spacer />
        <Button $small why={isClosed && "It is closed."} onPress={close}>
          Close the loop
        </Button>
      </Head>
      <PlaceField
        at={[...course.rail.from]}
        angle={course.rail.heading}
        onChange={({ at, angle }) => put({ ...course.rail, from: at, heading: angle })}
      />
      {way.map((section, i) => (
        <FieldRow key={i}>
          {i + 1}.{" "}
          {"straight" in section ? (
            <>
              straight
              <CmField
                label={`Length of section ${i + 1}`}
                mm={section.straight}
                onChange={(straight) => set(way.with(i, { straight }))}
              />
              cm
            </>
          ) : (
            <>
              bend
              <NumberField
                label={`Bend of section ${i + 1} in degrees`}
                width={52}
                by={5}
                value={section.arc}
                low={-360}
                high={360}
                onChange={(arc) => arc !== 0 && set(way.with(i, { ...section, arc }))}
              />
              ° with a radius of
              <CmField
                label={`Radius of section ${i + 1}`}
                mm={section.radius}
                onChange={(radius) => set(way.with(i, { ...section, radius }))}
              />
              cm
            </>
          )}
          <QuietButton
            aria-label={`Remove section ${i + 1}`}
            isDisabled={way.length === 1}
            onPress={() => set(way.toSpliced(i, 1))}
          >
            ×
          </QuietButton>
        </FieldRow>
      ))}
      <FieldRow>
        <Button $small onPress={() => set([...way, { straight: 300 }])}>
          Add a straight
        </Button>
        <Button $small onPress={() => set([...way, { arc: 90, radius: 250 }])}>
          Add a bend
        </Button>
      </FieldRow>
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      <Sleepers course={course} />
    </section>
  );
}

/** What lies across under the rail, if anything does. */
function Sleepers({ course }: { course: RailCourse }) {
  const edit = useEdit();
  const { targets } = useProject();
  const { sleepers } = course;
  const set = (next: RailCourse["sleepers"]) => edit("setSleepers", { course: course.id, sleepers: next ?? null });
  return (
    <FieldRow>
      <Select
        label="sleepers"
        value={(sleepers?.target as string | undefined) ?? NONE}
        options={[{ id: NONE, text: "none" }, ...targets.map((t) => ({ id: t.id as string, text: t.name }))]}
        onChange={(id) => set(id === NONE ? undefined : { ...(sleepers ?? USUAL_SLEEPERS), target: id as TargetId })}
      />
      {sleepers !== undefined && (
        <>
          every
          <CmField
            label="Between the sleepers"
            width={44}
            low={0.5}
            high={1000}
            mm={sleepers.everyMm}
            onChange={(everyMm) => set({ ...sleepers, everyMm })}
          />
          cm,
          <CmField
            label="Width of a sleeper"
            width={44}
            high={200}
            mm={sleepers.widthMm}
            onChange={(widthMm) => set({ ...sleepers, widthMm })}
          />
          cm wide
        </>
      )}
    </FieldRow>
  );
}

/** In the list of targets: no sleepers. */
const NONE = "none";
const USUAL_SLEEPERS = { everyMm: 80, lengthMm: 130, widthMm: 20 };

function Plates({ course }: { course: RailCourse }) {
  const edit = useEdit();
  const project = useProject();
  const { length } = new RailWay(course.rail);
  const set = (thing: Plate) => edit("setThing", { course: course.id, of: { part: "plates", thing } });
  return (
    <section aria-label="Plates along the rail">
      <Head style={{ margin: "8px 0 4px" }}>
        <Title>Plates</Title>
        <Spacer />
        <Button
          $small
          onPress={() =>
            edit("addThing", { course: course.id, of: { part: "plates", thing: newPlate(course, project.targets) } })
          }
        >
          Add a plate
        </Button>
      </Head>
      {course.plates.map((plate, i) => (
        <Group key={plate.id} aria-label={`Plate ${i + 1}`} style={{ gap: 0, marginBottom: 4 }}>
          <PaintedField
            project={project}
            value={plate.target}
            of={`plate ${i + 1}`}
            onChange={(target) => set({ ...plate, target: target as TargetId })}
          />
          <FieldRow>
            <CmField
              width={54}
              label={`Plate ${i + 1} along the rail`}
              mm={plate.at}
              low={0}
              high={Math.floor(length) / 10}
              onChange={(at) => set(plateAt(course.rail, plate, at))}
            />
            cm along,
            <NumberField
              label={`Plate ${i + 1} to the left in mm`}
              width={54}
              value={plate.aside}
              low={-1000}
              high={1000}
              onChange={(aside) => set({ ...plate, aside })}
            />
            mm to the left
          </FieldRow>
          <FieldRow>
            <CmField
              width={54}
              label={`Length of plate ${i + 1}`}
              mm={plate.length}
              onChange={(length) => set({ ...plate, length })}
            />
            by
            <CmField
              width={54}
              label={`Width of plate ${i + 1}`}
              mm={plate.width}
              onChange={(width) => set({ ...plate, width })}
            />
            cm
            <QuietButton
              aria-label={`Remove plate ${i + 1}`}
              onPress={() => edit("deleteThing", { course: course.id, part: "plates", thing: plate.id })}
            >
              ×
            </QuietButton>
          </FieldRow>
        </Group>
      ))}
    </section>
  );
}
