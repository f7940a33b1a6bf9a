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
import {
  CmField,
  FieldRow,
  PaintedField,
  PlaceField,
  PointField,
  Points,
  ShapeField,
  TargetField,
  Times,
} from "./fields";
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
  /** Sets some of the thing's fields. */
  put: (change: Partial<Extract<PartThing, { part: K }>["thing"]>) => string | undefined;
}

function PatchFields({ of, set, put }: FieldsOf<"patches">) {
  const project = useProject();
  const one = of.thing;
  return (
    <>
      <PaintedField project={project} value={one.target} onChange={(target) => put({ target })} />
      <ShapeField shape={one.shape} onChange={(shape) => put({ shape })} />
      <PlaceField at={one.at} angle={one.angle} onChange={(place) => put(place)} />
      <Points of={of} onChange={set} />
    </>
  );
}

function ZoneFields({ of, set, put, course }: FieldsOf<"zones">) {
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
    return put({ name });
  };
  return (
    <>
      <FieldRow>
        <EntryField width={150} label="Name of the zone" text={one.name} take={rename} />
      </FieldRow>
      <ShapeField shape={one.shape} onChange={(shape) => put({ shape })} />
      <PlaceField at={one.at} angle={one.angle} onChange={(place) => put(place)} />
      <Points of={of} onChange={set} />
    </>
  );
}

function LineFields({ of, set, put }: FieldsOf<"lines">) {
  const project = useProject();
  const one = of.thing;
  return (
    <>
      <FieldRow>
        <TargetField label="target" project={project} value={one.target} onChange={(target) => put({ target })} />
        width
        <NumberField label="Width in mm" value={one.width} low={1} high={1000} onChange={(width) => put({ width })} />
        mm
      </FieldRow>
      <Points of={of} onChange={set} />
    </>
  );
}

function SignFields({ of, put }: FieldsOf<"signs">) {
  const project = useProject();
  const one = of.thing;
  return (
    <>
      <PaintedField project={project} value={one.target} onChange={(target) => put({ target })} />
      <FieldRow>
        <CmField label="Width" mm={one.width} low={0.5} high={200} onChange={(width) => put({ width })} />
        cm wide
        <CmField label="Height" mm={one.height} low={0.5} high={200} onChange={(height) => put({ height })} />
        cm high
      </FieldRow>
      <PlaceField at={one.at} angle={one.angle} onChange={(place) => put(place)} />
    </>
  );
}

function ShadeFields({ of, put }: FieldsOf<"shade">) {
  const one = of.thing;
  return (
    <>
      <FieldRow>
        light ×
        <NumberField label="Level" value={one.level} low={0} high={10} by={0.1} onChange={(level) => put({ level })} />
      </FieldRow>
      <FieldRow>
        from
        <PointField of="First corner" at={one.from} onChange={(from) => put({ from })} />
        to
        <PointField of="Other corner" at={one.to} onChange={(to) => put({ to })} />
      </FieldRow>
    </>
  );
}

function StartFields({ of, put, course }: FieldsOf<"starts">) {
  const one = of.thing;
  return (
    <>
      <FieldRow>
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
            return wrong ?? put({ name: text.trim() });
          }}
        />
      </FieldRow>
      {"x" in one ? (
        <PlaceField
          at={[one.x, one.y]}
          angle={one.heading}
          onChange={({ at: [x, y], angle }) => put({ x, y, heading: angle })}
        />
      ) : (
        "at" in one && (
          <FieldRow>
            <CmField label="Along the rail" mm={one.at} low={0} onChange={(at) => put({ at })} />
            cm along,
            <Select
              label="facing"
              value={one.facing}
              options={[
                { id: "forward", text: "forward" },
                { id: "back", text: "back" },
              ]}
              onChange={(facing) => put({ facing })}
            />
          </FieldRow>
        )
      )}
    </>
  );
}

function CardFields({ of, set, put }: FieldsOf<"cards">) {
  const project = useProject();
  const one = of.thing;
  return (
    <>
      <PaintedField project={project} value={one.target} onChange={(target) => put({ target })} />
      <Times one={one} onChange={(times) => put(times)} />
      <FieldRow>
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
      </FieldRow>
      <FieldRow>
        <Select
          label="before"
          value={(one.sensor ?? project.robot.mounts[0].sensor) as string}
          options={project.robot.mounts.map((m) => ({
            id: m.sensor as string,
            text: project.sensors.find((s) => s.id === m.sensor)?.name ?? m.sensor,
          }))}
          onChange={(id) => put({ sensor: id as SensorId })}
        />
      </FieldRow>
    </>
  );
}

function PressFields({ of, put }: FieldsOf<"presses">) {
  const project = useProject();
  const one = of.thing;
  return (
    <>
      <FieldRow>
        <Select
          label="button"
          value={one.button}
          options={project.robot.buttons.map((b) => ({ id: b, text: b }))}
          onChange={(button) => put({ button })}
        />
      </FieldRow>
      <Times one={one} onChange={(times) => put(times)} />
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
    put: (change: object) => string | undefined;
  }> | null;
  const set = (next: PartThing) => edit("setThing", { course: course.id, of: next });
  const put = (change: object) => set({ ...of, thing: { ...of.thing, ...change } } as PartThing);
  return Fields && <Fields course={course} of={of} set={set} put={put} />;
}
