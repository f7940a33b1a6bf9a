import type { ArgsOf } from "@perceptum/core/edits";
import type { Box } from "@perceptum/core/readings";
import styled from "styled-components";
import { useProject, useTargets } from "../hooks/project";
import { LightSelect } from "../lights/LightSelect";
import { Chip } from "../targets/Chip";
import { Button, QuietButton } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { Num } from "../ui/layout";
import { Select } from "../ui/Select";
import { typedNumber } from "../ui/typed";

const Row = styled(QuietButton)<{ $here: boolean }>`
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  width: 100%;
  text-align: left;
  padding: 3px 4px;
  color: ${({ theme }) => theme.ink};
  background: ${({ $here, theme }) => ($here ? theme.panel : "none")};
  & > span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
`;
const Fields = styled.div`
  display: grid;
  grid-template-columns: 50px minmax(0, 1fr);
  gap: 4px 8px;
  align-items: center;
  padding: 4px 0 8px 4px;
  font-size: 12px;
  & > span { color: ${({ theme }) => theme.ink2}; }
`;
const Two = styled.div`
  display: flex;
  gap: 4px;
  align-items: center;
  flex-wrap: wrap;
  & input { width: 46px; }
`;

/** One box: what it shows, in which light, and where it lies. */
export function BoxEditor(props: {
  box: Box;
  frame: { width: number; height: number };
  open: boolean;
  onOpen: () => void;
  onChange: (change: ArgsOf<"changeBox">["change"]) => string | undefined;
  onDelete: () => void;
}) {
  const { box, frame, open, onOpen, onChange, onDelete } = props;
  const { targets } = useProject();
  const target = useTargets().get(box.target);
  const take = (side: "left" | "top" | "width" | "height") => (text: string) => {
    const px = typedNumber(text);
    if (!Number.isInteger(px) || px < (side === "width" || side === "height" ? 1 : 0))
      return `“${text}” is no whole number of px; the box stays as it was.`;
    const moved = { ...box, [side]: px };
    if (moved.left + moved.width > frame.width || moved.top + moved.height > frame.height)
      return `It would reach out of the frame of ${frame.width} × ${frame.height} px; the box stays as it was.`;
    return onChange({ [side]: px });
  };
  const field = (side: "left" | "top" | "width" | "height", label: string) => (
    <EntryField mono label={label} text={String(box[side])} take={take(side)} />
  );
  return (
    <>
      <Row
        $here={open}
        aria-expanded={open}
        aria-label={`Box of ${target?.name}, ${box.width} × ${box.height} px`}
        onPress={onOpen}
      >
        <Chip target={target} />
        <span>{target?.name}</span>{" "}
        <Num>
          {box.width} × {box.height}
        </Num>
      </Row>
      {open && (
        <Fields role="group" aria-label="The chosen box">
          <span>target</span>
          <Select
            label="Target of the box"
            hideLabel
            value={box.target as string}
            options={targets.map((t) => ({ id: t.id as string, text: t.name }))}
            onChange={(id) => onChange({ target: id as Box["target"] })}
          />
          <span>light</span>
          <LightSelect
            label="Light of the box"
            hideLabel
            light={box.light}
            onChange={(light) => onChange({ light: light ?? null })}
          />
          <span>left, top</span>
          <Two>
            {field("left", "First column of the box")}
            {field("top", "First row of the box")}
          </Two>
          <span>size</span>
          <Two>
            {field("width", "Width of the box in px")} × {field("height", "Height of the box in px")}
          </Two>
          <span />
          <Button $small onPress={onDelete}>
            Delete the box
          </Button>
        </Fields>
      )}
    </>
  );
}
