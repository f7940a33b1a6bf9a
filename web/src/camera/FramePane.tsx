import { type BoxId, nextId } from "@perceptum/core/names";
import type { Box, CameraSensor, TapeHead } from "@perceptum/core/readings";
import { stripIn } from "@perceptum/core/vision";
import { useEffect, useMemo, useState } from "react";
import styled from "styled-components";
import { useEdit, useProject } from "../hooks/project";
import { type SourceView, usePlayhead } from "../hooks/source";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { targetChosen } from "../model/store/view";
import { Chip } from "../targets/Chip";
import { Button } from "../ui/Button";
import { Dim, Empty, Head, KeyHint, Num, Spacer, Title } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { seconds } from "../ui/seconds";
import { singleKeysWork } from "../ui/singleKeys";
import { BoxEditor } from "./BoxEditor";
import { FoundTable } from "./FoundTable";
import { FrameAndFound, FrameView } from "./FrameView";
import type { Rect } from "./frameLayout";
import { StripHandles } from "./StripHandles";
import { useFrame, useSetup } from "./useFrame";
import { useProbe } from "./useProbe";

const LightsSheet = lazily(() => import("../lights/LightsSheet").then((m) => m.LightsSheet));

const Column = styled.div`
  min-height: 0;
  min-width: 0;
  overflow: auto;
  display: flex;
  flex-direction: column;
`;
const Ask = styled.div`
  position: absolute;
  z-index: 2;
  width: 196px;
  padding: 6px 8px 8px;
  background: ${({ theme }) => theme.sheet};
  border: 1px solid ${({ theme }) => theme.ink};
  border-radius: ${({ theme }) => theme.radius};
  display: flex;
  flex-direction: column;
  gap: 3px;
  max-height: 100%;
  overflow: auto;
  & button { display: grid; grid-template-columns: 24px minmax(0, 1fr) auto; gap: 8px; align-items: center; text-align: left; width: 100%; }
`;

/** The frame at the playhead of a camera's tape: what is found in it, the strip, and boxes to teach by. */
export function FramePane({ source, tape, sensor }: { source: SourceView; tape: TapeHead; sensor: CameraSensor }) {
  const project = useProject();
  const dispatch = useAppDispatch();
  const edit = useEdit();
  const target = useAppSelector((state) => state.view.target);
  const index = source.block.indexAt(usePlayhead(source.source));
  const t = source.block.t[index];
  const setup = useSetup(sensor, project.ruleSets, project.targets);
  const label = project.targets.findIndex((x) => x.id === target) + 1;
  const { seen, trouble, isLooked, looks } = useFrame(tape.frames?.[index], setup, label);
  const [fresh, setFresh] = useState<Rect | null>(null);
  const [chosen, setChosen] = useState<BoxId | null>(null);
  const [lighting, setLighting] = useState(false);
  const probe = useProbe(seen, sensor);
  const strip = useMemo(() => stripIn(sensor.frame, sensor.strip), [sensor]);
  const all = tape.boxes ?? [];
  const here = all.filter((box) => box.t === t);
  const chosenHere = here.findIndex((box) => box.id === chosen);

  // Another frame is another picture: what was begun on the last one is dropped.
  useEffect(() => {
    void t;
    setFresh(null);
  }, [t]);

  const box = (rect: Rect, of: Box["target"]) => {
    // The light is most probably that of the box before.
    const light = here.at(-1)?.light ?? all.findLast((b) => b.t <= t)?.light;
    const id = nextId("box", all);
    edit("addBox", { tape: tape.id, box: { id, t, target: of, ...rect, ...(light !== undefined && { light }) } });
    setChosen(id);
    setFresh(null);
    dispatch(targetChosen(of));
  };
  if (trouble !== null)
    return (
      <Empty role="alert">
        The frame cannot be shown: {trouble}. The tape and its boxes are kept; try another frame.
      </Empty>
    );
  if (seen === null) return <Empty>The frame is fetched.</Empty>;
  return (
    <section
      aria-label="Frame at the playhead"
      data-looked={isLooked}
      data-looks={looks}
      style={{ flex: 1, minHeight: 0, display: "flex", flexDirection: "column" }}
    >
      <Head style={{ marginBottom: 4, minHeight: 24 }}>
        <Title>
          Frame {index + 1} of {source.block.length}, at {seconds(t)}
        </Title>
        <Spacer />
        <Button $small onPress={() => setLighting(true)}>
          Lights
        </Button>
        <Button
          $small
          onPress={() => {
            const { width, height } = sensor.frame;
            setFresh({
              left: Math.round(width * 0.375),
              top: Math.round(height * 0.375),
              width: Math.max(1, Math.round(width / 4)),
              height: Math.max(1, Math.round(height / 4)),
            });
          }}
        >
          Box in the middle
        </Button>
      </Head>
      <FrameAndFound>
        <FrameView
          seen={seen}
          strip={strip}
          targets={project.targets}
          label={`Frame ${index + 1} of ${tape.name}`}
          boxes={here}
          chosen={chosenHere}
          fresh={fresh}
          onProbe={probe.over}
          onDrawn={setFresh}
          onPress={({ column, row }) => {
            setFresh(null);
            probe.pin({ column, row });
            const hit = here.findLast(
              (box) =>
                column >= box.left && column < box.left + box.width && row >= box.top && row < box.top + box.height,
            );
            setChosen(hit?.id ?? null);
            if (hit !== undefined) dispatch(targetChosen(hit.target));
          }}
        >
          {(laid, size) => (
            <>
              {fresh === null && <StripHandles sensor={sensor} laid={laid} />}
              {fresh !== null && (
                <AskTarget
                  at={{
                    left: Math.max(
                      0,
                      Math.min(size.width - 200, laid.left + (fresh.left + fresh.width) * laid.scale + 6),
                    ),
                    top: Math.max(0, Math.min(size.height - 150, laid.top + fresh.top * laid.scale)),
                  }}
                  onTarget={(of) => box(fresh, of)}
                  onClose={() => setFresh(null)}
                />
              )}
            </>
          )}
        </FrameView>
        <Column>
          <FoundTable looked={seen.looked} targets={project.targets} />
          <Title style={{ marginTop: 10 }}>Boxes on this frame</Title>
          {here.length === 0 && (
            <Empty style={{ padding: "2px 0" }}>None yet. Drag over a thing on the frame, and say what it is.</Empty>
          )}
          {here.map((own) => (
            <BoxEditor
              key={own.id}
              box={own}
              frame={sensor.frame}
              open={own.id === chosen}
              onOpen={() => {
                setChosen(own.id === chosen ? null : own.id);
                dispatch(targetChosen(own.target));
              }}
              onChange={(change) => edit("changeBox", { tape: tape.id, box: own.id, change })}
              onDelete={() => {
                edit("deleteBox", { tape: tape.id, box: own.id });
                setChosen(null);
              }}
            />
          ))}
          <Dim style={{ fontSize: 11.5, whiteSpace: "normal", paddingTop: 6 }}>
            The middle of each box, {all.length === 1 ? "one so far" : `${all.length} so far`} on this tape, is what
            rules are taught by.
          </Dim>
        </Column>
      </FrameAndFound>
      {lighting && <LightsSheet onClose={() => setLighting(false)} />}
    </section>
  );
}

/** What a new box shows: a press on a target, or its number. */
function AskTarget(props: {
  at: { left: number; top: number };
  onTarget: (target: Box["target"]) => void;
  onClose: () => void;
}) {
  const { at, onTarget, onClose } = props;
  const { targets } = useProject();
  const keys = singleKeysWork();
  return (
    <Ask
      role="group"
      aria-label="This is"
      style={at}
      onKeyDown={(event) => {
        const number = keys ? Number(event.key) : Number.NaN;
        const target = number >= 1 ? targets[number - 1] : undefined;
        if (event.key !== "Escape" && target === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        if (event.key === "Escape") onClose();
        else if (target !== undefined) onTarget(target.id);
      }}
    >
      <Title>This is …</Title>
      {targets.map((target, i) => (
        <Button key={target.id} $small autoFocus={i === 0} onPress={() => onTarget(target.id)} aria-label={target.name}>
          <Chip target={target} />
          <span style={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>{target.name}</span>
          {i < 9 && keys ? <KeyHint data-key={i + 1} /> : <Num />}
        </Button>
      ))}
      <Button $small onPress={onClose}>
        Drop the box
      </Button>
    </Ask>
  );
}
