import styled from "styled-components";
import { Box } from "../ui/EntryField";
import { Group, LabelledRow } from "../ui/fields";
import { Dim } from "../ui/layout";
import { Select } from "../ui/Select";
import type { CameraDraft } from "./sensorDraft";

const Fields = styled.span`
  display: inline-flex;
  flex-wrap: wrap;
  gap: 5px;
  align-items: center;
`;

/** What only a camera has: its frames, the strip that counts, how masks are cleaned, and how wide it sees. */
export function CameraFields(props: {
  draft: CameraDraft;
  /** It has tapes: its frames keep their size. */
  sized: boolean;
  change: (part: Partial<CameraDraft>) => void;
}) {
  const { draft, sized, change } = props;
  const field = (key: "width" | "height" | "erode" | "dilate" | "minArea" | "setPoint" | "viewDeg", label: string) => (
    <Box
      $mono
      aria-label={label}
      value={draft[key]}
      placeholder={key === "setPoint" ? "middle" : undefined}
      style={key === "setPoint" ? { width: 68 } : undefined}
      disabled={sized && (key === "width" || key === "height")}
      onChange={(event) => change({ [key]: event.target.value })}
    />
  );
  const strip = (i: 0 | 1 | 2 | 3, label: string, whole: string) => (
    <Box
      $mono
      aria-label={label}
      value={draft.strip[i]}
      placeholder={whole}
      onChange={(event) =>
        change({ strip: draft.strip.with(i, event.target.value) as unknown as CameraDraft["strip"] })
      }
    />
  );
  return (
    <Group>
      <legend>Frames, in px</legend>
      <LabelledRow as="div">
        Size
        <Fields>
          {field("width", "Width of a frame")} × {field("height", "Height of a frame")}
          {sized && <Dim>as its tapes have it</Dim>}
        </Fields>
      </LabelledRow>
      <Select
        label="Rows come"
        value={draft.rows}
        options={[
          { id: "top first" as const, text: "top first" },
          { id: "bottom first" as const, text: "bottom first" },
        ]}
        onChange={(rows) => change({ rows })}
      />
      <Select
        label="Its values are"
        value={draft.values}
        options={[
          { id: "srgb" as const, text: "sRGB, as pictures have them" },
          { id: "linear" as const, text: "linear: twice the light, twice the value" },
        ]}
        onChange={(values) => change({ values })}
      />
      <LabelledRow as="div">
        Rows that count
        <Fields>
          {strip(0, "First row that counts", "0")} to before {strip(1, "First row below the strip", draft.height)}
        </Fields>
      </LabelledRow>
      <LabelledRow as="div">
        Columns
        <Fields>
          {strip(2, "First column that counts", "0")} to before{" "}
          {strip(3, "First column right of the strip", draft.width)}
        </Fields>
      </LabelledRow>
      <LabelledRow as="div">
        Cleaned by
        <Fields>
          {field("erode", "Erosion in px")} taken off, then {field("dilate", "Dilation in px")} put on
        </Fields>
      </LabelledRow>
      <LabelledRow as="div">
        A blob has
        <Fields>at least {field("minArea", "Least area of a blob in px")} px</Fields>
      </LabelledRow>
      <LabelledRow as="div">
        Errors count
        <Fields>from column {field("setPoint", "Set point")}</Fields>
      </LabelledRow>
      <LabelledRow as="div">
        It sees
        <Fields>{field("viewDeg", "Angle of view in degrees")} ° wide, in the simulation</Fields>
      </LabelledRow>
      {draft.values === "srgb" && (
        <Select
          label="Exposure in the simulation"
          value={draft.exposure}
          options={[
            { id: "auto" as const, text: "goes by the scene" },
            { id: "held" as const, text: "is held" },
          ]}
          onChange={(exposure) => change({ exposure })}
        />
      )}
    </Group>
  );
}
