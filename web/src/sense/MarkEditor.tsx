import type { Mark, TapeHead } from "@perceptum/core/readings";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { useProject } from "../hooks/project";
import { useAppSelector } from "../hooks/store";
import { LightSelect } from "../lights/LightSelect";
import { Button } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { Select } from "../ui/Select";
import { seconds } from "../ui/seconds";
import { typedNumber } from "../ui/typed";
import type { TapeEdits } from "./useTapeEdits";

const Box = styled.div`
  display: grid;
  grid-template-columns: 52px minmax(0, 1fr);
  gap: 4px 8px;
  align-items: center;
  padding: 4px 4px 8px 36px;
  font-size: 12px;
  & > span { color: ${({ theme }) => theme.ink2}; }
`;
const Two = styled.div`
  display: flex;
  gap: 6px;
  align-items: center;
  flex-wrap: wrap;
`;

/** Everything about one mark: target, light, height, from when to when; split and delete. */
export function MarkEditor({ tape, mark, edits }: { tape: TapeHead; mark: Mark; edits: TapeEdits }) {
  const { targets } = useProject();
  const { readings } = useSession();
  const playhead = useAppSelector((state) => state.view.playheads[tape.id] ?? 0);
  const t = readings.get(tape.id)?.t ?? new Float64Array();
  const end = t.at(-1) ?? 0;
  const take = (side: "from" | "to") => (text: string) => {
    const ms = typedNumber(text) * 1000;
    if (!Number.isFinite(ms)) return `“${text}” is no time in seconds; the mark stays as it was.`;
    if (ms < 0 || ms > end) return `The tape runs from 0 to ${seconds(end)}; the mark stays as it was.`;
    if (side === "from" ? ms > mark.to : ms < mark.from)
      return "A mark must not end before it begins; it stays as it was.";
    return edits.changeMark(tape.id, mark.id, { [side]: ms });
  };
  const takeHeight = (text: string) => {
    if (text.trim() === "") return edits.changeMark(tape.id, mark.id, { height: null });
    const height = typedNumber(text);
    if (!(height >= 0 && height <= 1000)) return "A height lies from 0 to 1000 mm; it stays as it was.";
    return edits.changeMark(tape.id, mark.id, { height });
  };
  // Split between the reading at the playhead and the one before it.
  const at = t.findIndex((x) => x >= playhead);
  const splits = at > 0 && t[at - 1] >= mark.from && t[at] <= mark.to;
  return (
    <Box role="group" aria-label="The chosen mark">
      <span>target</span>
      <Select
        label="Target of the mark"
        hideLabel
        value={mark.target as string}
        options={targets.map((x) => ({ id: x.id as string, text: x.name }))}
        onChange={(id) => edits.changeMark(tape.id, mark.id, { target: id as typeof mark.target })}
      />
      <span>light</span>
      <LightSelect
        label="Light of the mark"
        hideLabel
        light={mark.light}
        onChange={(light) => edits.changeMark(tape.id, mark.id, { light: light ?? null })}
      />
      <span>height</span>
      <Two>
        <EntryField
          mono
          label="Height of the mark in mm"
          text={mark.height === undefined ? "" : String(mark.height)}
          placeholder="–"
          take={takeHeight}
        />{" "}
        mm
      </Two>
      <span>from, to</span>
      <Two>
        <EntryField
          mono
          label="Start of the mark in seconds"
          text={(mark.from / 1000).toFixed(3)}
          take={take("from")}
        />
        <EntryField mono label="End of the mark in seconds" text={(mark.to / 1000).toFixed(3)} take={take("to")} /> s
      </Two>
      <span />
      <Two>
        <Button
          $small
          why={!splits && "Move the playhead into the mark first."}
          onPress={() => edits.splitMark(tape, mark.id, t[at - 1], t[at])}
        >
          Split at the playhead
        </Button>
        <Button $small onPress={() => edits.deleteMark(tape.id, mark.id)}>
          Delete the mark
        </Button>
      </Two>
    </Box>
  );
}
