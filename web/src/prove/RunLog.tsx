import type { Note } from "@perceptum/core/behaviour";
import { useEffect, useRef } from "react";
import styled from "styled-components";
import type { LastRun } from "../state/judged";
import { useAppDispatch } from "../state/store";
import { playheadMoved, playingSet } from "../state/view";
import { Title } from "../ui/layout";

const List = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  font: 11.5px/1.6 ${({ theme }) => theme.mono};
  overflow: auto;
  min-height: 100px;
  flex: 1;
`;
const Line = styled.button<{ $past: boolean; $now: boolean }>`
  border: 0;
  background: none;
  padding: 0 4px;
  display: grid;
  grid-template-columns: 62px minmax(0, 1fr);
  width: 100%;
  text-align: left;
  font: inherit;
  color: ${({ theme, $past }) => ($past ? theme.ink : theme.ink3)};
  font-weight: ${({ $now }) => ($now ? 700 : 400)};
  &:hover { background: ${({ theme }) => theme.pressed}; }
`;

/** What happened, line by line; pressing one goes there. */
export function RunLog({ run, t }: { run: LastRun; t: number }) {
  const dispatch = useAppDispatch();
  const current = useRef<HTMLLIElement>(null);
  const { targets, behaviour } = run.project;
  const notes = run.trace.notes.filter((n) => n.kind !== "ended");
  const at = notes.findLastIndex((n) => n.t <= t);
  useEffect(() => {
    current.current?.scrollIntoView({ block: "nearest" });
  }, [at]);

  const name = (id: string) => targets.find((x) => x.id === id)?.name ?? id;
  const words = (note: Note): string => {
    switch (note.kind) {
      case "arrives":
        return `${name(note.target)} arrives`;
      case "departs":
        return `${name(note.target)} departs`;
      case "fires":
        return `→ ${note.response}`;
      case "dropped":
        return `${note.response} let go: another runs`;
      case "step":
        return `  ${note.phrase}`;
      case "mode":
        return `mode ${behaviour.modes.find((m) => m.id === note.mode)?.name ?? note.mode}`;
      case "counter":
        return `  ${note.counter} is ${note.value}`;
      case "log":
      case "trouble":
        return note.text;
      case "ended":
        return "ended";
      case "finish":
        return "finished";
    }
  };
  return (
    <>
      <Title style={{ margin: "14px 0 4px" }}>Log</Title>
      <List aria-label="Log">
        {notes.map((note, i) => (
          <li key={i} ref={i === at ? current : undefined}>
            <Line
              type="button"
              $past={i <= at}
              $now={i === at}
              onClick={() => {
                dispatch(playingSet(false));
                dispatch(playheadMoved({ source: "run", t: note.t }));
              }}
            >
              <span>{(note.t / 1000).toFixed(2)} s</span>
              <span style={{ whiteSpace: "pre-wrap" }}>{words(note)}</span>
            </Line>
          </li>
        ))}
      </List>
    </>
  );
}
