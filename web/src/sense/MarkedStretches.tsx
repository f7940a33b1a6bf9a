import type { TapeId } from "@perceptum/core/project";
import styled from "styled-components";
import { useProject, useTargets } from "../state/project";
import { useAppDispatch, useAppSelector } from "../state/store";
import { playheadMoved, tapeChosen, targetChosen } from "../state/view";
import { Chip } from "../targets/Chip";
import { QuietButton } from "../ui/Button";
import { Empty, Num, Title } from "../ui/layout";

const List = styled.ul`
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
`;
const Row = styled(QuietButton)<{ $here: boolean }>`
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  width: 100%;
  text-align: left;
  padding: 3px 4px;
  color: ${({ theme }) => theme.ink};
  background: ${({ $here, theme }) => ($here ? theme.sheet : "none")};
  & > span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  & i { font-style: normal; color: ${({ theme }) => theme.ink2}; }
`;
const Scroll = styled.div`
  overflow: auto;
  min-height: 120px;
  flex: 1;
`;

/** All marked stretches of all tapes; choosing one brings the playhead there. */
export function MarkedStretches() {
  const { tapes, lights } = useProject();
  const targets = useTargets();
  const dispatch = useAppDispatch();
  const tape = useAppSelector((state) => state.view.tape);
  const playhead = useAppSelector((state) => (tape === null ? 0 : (state.view.playheads[tape] ?? 0)));
  const stretches = tapes.flatMap((t) => t.marks.map((mark) => ({ tape: t.id, mark })));
  const go = (id: TapeId, t: number) => {
    dispatch(tapeChosen(id));
    dispatch(playheadMoved({ source: id, t }));
  };
  return (
    <>
      <Title>Marked stretches</Title>
      {stretches.length === 0 ? (
        <Empty>Nothing is marked yet. A run that is kept as a tape marks itself.</Empty>
      ) : (
        <Scroll>
          <List>
            {stretches.map(({ tape: id, mark }) => {
              const target = targets.get(mark.target);
              const light = lights.find((l) => l.id === mark.light)?.name ?? "light not noted";
              const seconds = ((mark.to - mark.from) / 1000).toFixed(1);
              const here = id === tape && mark.from <= playhead && playhead <= mark.to;
              return (
                <li key={`${id} ${mark.from}`}>
                  <Row
                    $here={here}
                    aria-label={`${target?.name}, ${light}, ${seconds} s, at ${(mark.from / 1000).toFixed(1)} s`}
                    onPress={() => {
                      dispatch(targetChosen(mark.target));
                      go(id, (mark.from + mark.to) / 2);
                    }}
                  >
                    <Chip target={target} />
                    <span>
                      {target?.name} <i>· {light}</i>
                    </span>
                    <Num>{seconds} s</Num>
                  </Row>
                </li>
              );
            })}
          </List>
        </Scroll>
      )}
    </>
  );
}
