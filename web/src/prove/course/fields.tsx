import type { PartThing } from "@perceptum/core/edits";
import type { TargetId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import { type Painted, paintsOf, type Shape } from "@perceptum/core/world";
import styled from "styled-components";
import { QuietButton } from "../../ui/Button";
import { NumberField } from "../../ui/NumberField";
import { Select } from "../../ui/Select";
import { pointAdded, pointMoved, pointRemoved, pointsOf } from "./courseEdit";

export const FieldRow = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  align-items: center;
  font-size: 12px;
  margin-bottom: 5px;
  color: ${({ theme }) => theme.ink2};
`;

/** A length in mm, shown and typed in cm; so are `low` and `high`. */
export function CmField(props: {
  label: string;
  mm: number;
  low?: number;
  high?: number;
  width?: number;
  onChange: (mm: number) => void;
}) {
  const { label, mm, low = 0.1, high = 10_000, width, onChange } = props;
  return (
    <NumberField
      label={`${label} in cm`}
      value={mm / 10}
      low={low}
      high={high}
      {...(width !== undefined && { width })}
      onChange={(v) => onChange(v * 10)}
    />
  );
}

/** A place in mm by its two numbers; `of` says whose they are. */
export function PointField(props: {
  of?: string;
  at: readonly [number, number];
  onChange: (at: [number, number]) => void;
}) {
  const {
    of,
    at: [x, y],
    onChange,
  } = props;
  const label = (name: string) => (of === undefined ? name : `${of} ${name}`);
  return (
    <>
      <CmField label={label("x")} mm={x} low={-10_000} onChange={(v) => onChange([v, y])} />
      <CmField label={label("y")} mm={y} low={-10_000} onChange={(v) => onChange([x, v])} />
    </>
  );
}

export function Times({
  one,
  onChange,
}: {
  one: { atMs: number; forMs: number };
  onChange: (times: { atMs: number; forMs: number }) => void;
}) {
  return (
    <FieldRow>
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
    </FieldRow>
  );
}

export function TargetField(props: {
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
export function PaintedField(props: {
  project: ProjectDocument;
  value: Painted;
  /** Whose it is, where several of a kind stand there. */
  of?: string;
  onChange: (value: Painted) => void;
}) {
  const { project, value, of, onChange } = props;
  const ids = paintsOf(value);
  const set = (next: readonly TargetId[]) => {
    const unique = [...new Set(next)];
    onChange(unique.length === 1 ? unique[0] : { oneOf: unique });
  };
  const free = project.targets.filter((t) => !ids.includes(t.id));
  return (
    <FieldRow>
      {ids.map((id, k) => (
        <span key={id} style={{ display: "inline-flex", gap: 4 }}>
          <TargetField
            label={k > 0 ? "or" : of === undefined ? "target" : `target of ${of}`}
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
    </FieldRow>
  );
}

export function ShapeField({ shape, onChange }: { shape: Shape; onChange: (shape: Shape) => void }) {
  if ("polygon" in shape) return null;
  if ("disc" in shape)
    return (
      <FieldRow>
        disc of
        <CmField label="Diameter" mm={shape.disc} onChange={(disc) => onChange({ disc })} />
        cm
      </FieldRow>
    );
  return (
    <FieldRow>
      <CmField label="Along" mm={shape.rect[0]} onChange={(v) => onChange({ rect: [v, shape.rect[1]] })} />
      by
      <CmField label="Across" mm={shape.rect[1]} onChange={(v) => onChange({ rect: [shape.rect[0], v] })} />
      cm
    </FieldRow>
  );
}

export function PlaceField(props: {
  at: [number, number];
  angle: number;
  onChange: (place: { at: [number, number]; angle: number }) => void;
}) {
  const { at, angle, onChange } = props;
  return (
    <FieldRow>
      at
      <PointField at={at} onChange={(place) => onChange({ at: place, angle })} />
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
    </FieldRow>
  );
}

/** The points of a line or a polygon by their numbers. */
export function Points({ of, onChange }: { of: PartThing; onChange: (next: PartThing) => void }) {
  const points = pointsOf(of);
  const least = of.part === "lines" ? 2 : 3;
  return points.map((at, k) => (
    <FieldRow key={k}>
      {k + 1}.
      <PointField of={`Point ${k + 1}`} at={at} onChange={(place) => onChange(pointMoved(of, k, place))} />
      <QuietButton
        aria-label={`Add a point after point ${k + 1}`}
        isDisabled={of.part === "lines" && k === points.length - 1}
        onPress={() => onChange(pointAdded(of, k))}
      >
        +
      </QuietButton>
      <QuietButton
        aria-label={`Remove point ${k + 1}`}
        isDisabled={points.length <= least}
        onPress={() => onChange(pointRemoved(of, k))}
      >
        ×
      </QuietButton>
    </FieldRow>
  ));
}
