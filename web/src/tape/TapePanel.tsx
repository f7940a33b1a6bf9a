import { memo, useRef } from "react";
import styled from "styled-components";
import { useSettledProject } from "../hooks/project";
import { useCurrentBlock, usePlayhead } from "../hooks/source";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { hovered, playingSet } from "../model/store/view";
import { arrowStep } from "../ui/arrows";
import { Empty, Num, Spacer, Title } from "../ui/layout";
import { NARROW } from "../ui/narrow";
import { seconds } from "../ui/seconds";
import { usePointerDrag } from "../ui/usePointerDrag";
import { useWheel } from "../ui/useWheel";
import { LANES_LEFT, LANES_RIGHT } from "./LanePen";
import { Lanes } from "./Lanes";
import { MarkLane } from "./MarkLane";
import { Row, TapeControls } from "./TapeControls";
import { tellMoment } from "./tellMoment";
import { useFollowing, useTapeWindow, useTapeZoom } from "./useTapeWindow";
import { usePlaying, useTransport } from "./useTransport";

const Panel = styled.section`
  grid-column: 1 / 3;
  background: ${({ theme }) => theme.sheet};
  display: grid;
  grid-template-columns: 208px minmax(0, 1fr);
  min-height: 0;
  ${NARROW} { grid-column: 1; grid-template: auto 150px / minmax(0, 1fr); }
`;
const Controls = styled.div`
  padding: 8px 12px;
  border-right: 1px solid ${({ theme }) => theme.rule};
  display: flex;
  flex-direction: column;
  gap: 7px;
  min-width: 0;
`;
const Ground = styled.div`
  position: relative;
  min-width: 0;
  touch-action: none;
`;
const Playhead = styled.div`
  position: absolute;
  top: 0;
  bottom: 16px;
  width: 13px;
  margin-left: -6.5px;
  cursor: ew-resize;
  &::before { content: ""; position: absolute; left: 5.75px; top: 4px; bottom: 0; width: 1.5px; background: ${({ theme }) => theme.ink}; }
  &::after { content: ""; position: absolute; left: 1.5px; top: 0; border: 5px solid transparent; border-top: 7px solid ${({ theme }) => theme.ink}; }
`;
const HoverLine = styled.div`
  position: absolute;
  top: 6px;
  bottom: 16px;
  width: 0;
  border-left: 1px dashed ${({ theme }) => theme.ink};
  pointer-events: none;
`;

/** The tape under everything: what was read, what was there, what was seen, what was done; one playhead for all. */
export const TapePanel = memo(function TapePanel({ marking }: { marking: boolean }) {
  const source = useCurrentBlock();
  const project = useSettledProject();
  const tape = useAppSelector((state) => state.view.tape);
  const runBelow = useAppSelector((state) => state.view.runBelow);
  const hover = useAppSelector((state) => state.view.hover);
  const dispatch = useAppDispatch();
  const transport = useTransport();
  const t = usePlayhead(source?.source);
  const head = project.tapes.find((x) => x.id === tape);
  const ground = useRef<HTMLDivElement>(null);
  usePlaying();

  const { zoom, pan } = useTapeZoom();
  const part = useTapeWindow(source?.source, source?.length ?? 0);
  useFollowing(source?.source, part, source?.length ?? 0, t);
  const shareOf = (time: number) => (part.to === part.from ? 0 : (time - part.from) / (part.to - part.from));
  const share = shareOf(t);
  const isShown = (time: number) => time >= part.from && time <= part.to;
  const leftOf = (part: number) => `calc(${LANES_LEFT}px + (100% - ${LANES_LEFT + LANES_RIGHT}px) * ${part})`;
  const timeAt = (clientX: number) => {
    const box = ground.current?.getBoundingClientRect();
    if (!box || source === null) return 0;
    const at = Math.max(0, Math.min(1, (clientX - box.left - LANES_LEFT) / (box.width - LANES_LEFT - LANES_RIGHT)));
    return part.from + at * (part.to - part.from);
  };
  useWheel(ground, ({ shiftKey, deltaX, deltaY, clientX }) => {
    if (shiftKey || Math.abs(deltaX) > Math.abs(deltaY)) pan(0.002 * (deltaX + deltaY));
    else zoom(Math.exp(0.0015 * deltaY), timeAt(clientX));
  });
  const drag = usePointerDrag<"playhead">({
    move: ({ clientX }) => transport.seek(timeAt(clientX)),
    idle(event) {
      if (source !== null) dispatch(hovered({ source: source.source, t: timeAt(event.clientX) }));
    },
  });
  return (
    <Panel aria-label="Tape" data-pane>
      <Controls>
        <Row>
          <Title>
            {source?.source === "live" ? "Recording" : runBelow && source?.source === "run" ? "Run" : "Tape"}
          </Title>
          <Spacer />
          <Num>{seconds(t)}</Num>
        </Row>
        <TapeControls
          source={source?.source}
          name={source?.name ?? ""}
          eye={source?.sensor.id}
          isWhole={part.to - part.from >= (source?.length ?? 0)}
        />
      </Controls>
      <Ground
        ref={ground}
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          drag.begin(event, "playhead");
          dispatch(playingSet(false));
          transport.seek(timeAt(event.clientX));
        }}
        {...drag.handlers}
        onPointerLeave={() => dispatch(hovered(null))}
      >
        {source === null ? (
          <Empty style={{ padding: 20 }}>
            No tape yet. Record one on the bench in Sense, import readings, or let a run in Prove record its own.
          </Empty>
        ) : (
          <>
            <Lanes />
            {hover !== null && hover.source === source.source && isShown(hover.t) && (
              <HoverLine style={{ left: leftOf(shareOf(hover.t)) }} />
            )}
            {marking && head !== undefined && source.source === head.id && (
              <MarkLane tape={head} block={source.block} part={part} timeAt={timeAt} />
            )}
            <Playhead
              role="slider"
              tabIndex={0}
              aria-label="Playhead"
              aria-valuemin={0}
              aria-valuemax={source.length}
              aria-valuenow={Math.round(t)}
              // While it plays nothing is told: it would never end.
              aria-valuetext={transport.playing ? "playing" : tellMoment(t, transport.below())}
              style={{ left: leftOf(Math.max(0, Math.min(1, share))), opacity: isShown(t) ? 1 : 0 }}
              onKeyDown={(event) => {
                const steps: Record<string, number> = {
                  PageDown: -50,
                  PageUp: 50,
                  Home: -1e9,
                  End: 1e9,
                };
                const step = steps[event.key] ?? arrowStep(event.key);
                if (step === 0) return;
                event.preventDefault();
                transport.step(event.shiftKey ? 10 * step : step);
              }}
            />
          </>
        )}
      </Ground>
    </Panel>
  );
});
