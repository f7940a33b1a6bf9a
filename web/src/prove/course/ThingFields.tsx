import type { PartThing } from "@perceptum/core/edits";
import type { SensorId } from "@perceptum/core/names";
import type { Course } from "@perceptum/core/world";
import type { ComponentType } from "react";
import { useEdit, useProject } from "../../hooks/project";
import { Button } from "../../ui/Button";
import { EntryField } from "../../ui/EntryField";
import { Head, Spacer, Title } from "../../ui/layout";
import { NumberField } from "../../ui/NumberField";
import { Select } from "../../ui/Select";
import { typedNumber } from "../../ui/typed";
import { CmField, Line, PaintedField, PlaceField, PointField, Points, ShapeField, TargetField, Times } from "./fields";
import { nameTaken } from "./nameTaken";

/** The numbers of the chosen part of a course. */
export function ThingFields(props: { course: Course; of: PartThing; onRemove: () => void; onDuplicate: () => void }) {
  const { course, of, onRemove, onDuplicate } = props;
  const lastStart = of.part === "starts" && course.starts.length === 1;
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
      <PartFields course={course} of={of} />
    </section>
  );
}

/** What the fields of one kind of part are given. */
interface FieldsOf<K extends PartThing["part"]> {
  course: Course;
  of: Extract<PartThing, { part: K }>;
  set: (next: PartThing) => string | undefined;
}

function PatchFields({ of, set }: FieldsOf<"patches">) {
  const project = useProject();
  const one = of.thing;
  return (
    <>
      <PaintedField
        project={project}
        value={one.target}
        onChange={(target) => set({ ...of, thing: { ...one, target } })}
      />
      <ShapeField shape={one.shape} onChange={(shape) => set({ ...of, thing: { ...one, shape } })} />
      <PlaceField at={one.at} angle={one.angle} onChange={(place) => set({ ...of, thing: { ...one, ...place } })} />
      <Points of={of} onChange={set} />
    </>
  );
}

function ZoneFields({ of, set, course }: FieldsOf<"zones">) {
  const one = of.thing;
  const rename = (text: string) => {
    const wrong = nameTaken(
      text,
      course.zones.map((z) => z.name),
      one.name,
    );
    if (wrong !== undefined) return wrong;
    const name = text.trim();
    if (name.includes('"')) return "A zone’s name holds no quotes: checks write it between them.";
    return set({ ...of, thing: { ...one, name } });
  };
  return (
    <>
      <Line>
        <EntryField width={150} label="Name of the zone" text={one.name} take={rename} />
      </Line>
      <ShapeField shape={one.shape} onChange={(shape) => set({ ...of, thing: { ...one, shape } })} />
      <PlaceField at={one.at} angle={one.angle} onChange={(place) => set({ ...of, thing: { ...one, ...place } })} />
      <Points of={of} onChange={set} />
    </>
  );
}

function LineFields({ of, set }: FieldsOf<"lines">) {
  const project = useProject();
  const one = of.thing;
  return (
    <>
      <Line>
        <TargetField
          label="target"
          project={project}
          value={one.target}
          onChange={(target) => set({ ...of, thing: { ...one, target } })}
        />
        width
        <NumberField
          label="Width in mm"
          value={one.width}
          low={1}
          high={1000}
          onChange={(width) => set({ ...of, thing: { ...one, width } })}
        />
        mm
      </Line>
      <Points of={of} onChange={set} />
    </>
  );
}

function SignFields({ of, set }: FieldsOf<"signs">) {
  const project = useProject();
  const one = of.thing;
  return (
    <>
      <PaintedField
        project={project}
        value={one.target}
        onChange={(target) => set({ ...of, thing: { ...one, target } })}
      />
      <Line>
        <CmField
          label="Width"
          mm={one.width}
          low={0.5}
          high={200}
          onChange={(width) => set({ ...of, thing: { ...one, width } })}
        />
        cm wide
        <CmField
          label="Height"
          mm={one.height}
          low={0.5}
          high={200}
          onChange={(height) => set({ ...of, thing: { ...one, height } })}
        />
        cm high
      </Line>
      <PlaceField at={one.at} angle={one.angle} onChange={(place) => set({ ...of, thing: { ...one, ...place } })} />
    </>
  );
}

function ShadeFields({ of, set }: FieldsOf<"shade">) {
  const one = of.thing;
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
          onChange={(level) => set({ ...of, thing: { ...one, level } })}
        />
      </Line>
      <Line>
        from
        <PointField of="First corner" at={one.from} onChange={(from) => set({ ...of, thing: { ...one, from } })} />
        to
        <PointField of="Other corner" at={one.to} onChange={(to) => set({ ...of, thing: { ...one, to } })} />
      </Line>
    </>
  );
}

function StartFields({ of, set, course }: FieldsOf<"starts">) {
  const one = of.thing;
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
            return wrong ?? set({ ...of, thing: { ...one, name: text.trim() } });
          }}
        />
      </Line>
      {"x" in one ? (
        <PlaceField
          at={[one.x, one.y]}
          angle={one.heading}
          onChange={({ at: [x, y], angle }) => set({ ...of, thing: { ...one, x, y, heading: angle } })}
        />
      ) : (
        "at" in one && (
          <Line>
            <CmField
              label="Along the rail"
              mm={one.at}
              low={0}
              onChange={(at) => set({ ...of, thing: { ...one, at } })}
            />
            cm along,
            <Select
              label="facing"
              value={one.facing}
              options={[
                { id: "forward", text: "forward" },
                { id: "back", text: "back" },
              ]}
              onChange={(facing) => set({ ...of, thing: { ...one, facing } })}
            />
          </Line>
        )
      )}
    </>
  );
}

function CardFields({ of, set }: FieldsOf<"cards">) {
  const project = useProject();
  const one = of.thing;
  return (
    <>
      <PaintedField
        project={project}
        value={one.target}
        onChange={(target) => set({ ...of, thing: { ...one, target } })}
      />
      <Times one={one} onChange={(times) => set({ ...of, thing: { ...one, ...times } })} />
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
            const { heightMm: _, ...rest } = one;
            return set({ ...of, thing: { ...rest, ...(heightMm !== undefined && { heightMm }) } });
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
          onChange={(id) => set({ ...of, thing: { ...one, sensor: id as SensorId } })}
        />
      </Line>
    </>
  );
}

function PressFields({ of, set }: FieldsOf<"presses">) {
  const project = useProject();
  const one = of.thing;
  return (
    <>
      <Line>
        <Select
          label="button"
          value={one.button}
          options={project.robot.buttons.map((b) => ({ id: b, text: b }))}
          onChange={(button) => set({ ...of, thing: { ...one, button } })}
        />
      </Line>
      <Times one={one} onChange={(times) => set({ ...of, thing: { ...one, ...times } })} />
    </>
  );
}

/** The fields of each kind of part; those of plates stand by themselves. */
const FIELDS: { [K in PartThing["part"]]: ComponentType<FieldsOf<K>> | null } = {
  patches: PatchFields,
  zones: ZoneFields,
  lines: LineFields,
  signs: SignFields,
  shade: ShadeFields,
  starts: StartFields,
  cards: CardFields,
  presses: PressFields,
  plates: null,
};

function PartFields({ course, of }: { course: Course; of: PartThing }) {
  const edit = useEdit();
  const Fields = FIELDS[of.part] as ComponentType<{
    course: Course;
    of: PartThing;
    set: FieldsOf<"signs">["set"];
  }> | null;
  return Fields && <Fields course={course} of={of} set={(next) => edit("setThing", { course: course.id, of: next })} />;
}
