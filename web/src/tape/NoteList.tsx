import type { Note } from "@perceptum/core/behaviour";
import type { ProjectDocument } from "@perceptum/core/project";
import { useEffect, useMemo, useRef } from "react";
import styled from "styled-components";
import { seconds } from "../ui/seconds";

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

type NoteOf<K, N = Note> = N extends { kind: unknown } ? (K extends N["kind"] ? N : never) : never;
/** A project's names for what notes speak of. */
interface NoteNames {
  target(id: string): string;
  mode(id: string): string;
}
const WORDS: { [K in Note["kind"]]: (note: NoteOf<K>, names: NoteNames) => string } = {
  arrives: (n, { target }) => `${target(n.target)} arrives (${n.sensor})`,
  departs: (n, { target }) => `${target(n.target)} departs (${n.sensor})`,
  fires: (n) => `→ ${n.response}`,
  dropped: (n) => `${n.response} let go: another runs`,
  step: (n) => `  ${n.phrase}`,
  mode: (n, { mode }) => `mode ${mode(n.mode)}`,
  counter: (n) => `  ${n.counter} is ${n.value}`,
  list: (n) => `  ${n.list} holds ${n.targets.join(", ")}`,
  log: (n) => n.text,
  trouble: (n) => `! ${n.text}`,
  ended: () => "ended",
  finish: () => "finished",
};

/** A note in words. */
export function noteWords(note: Note, project: Pick<ProjectDocument, "targets" | "behaviour">): string {
  const names: NoteNames = {
    target: (id) => project.targets.find((x) => x.id === id)?.name ?? id,
    mode: (id) => project.behaviour.modes.find((m) => m.id === id)?.name ?? id,
  };
  return (WORDS[note.kind] as (note: Note, names: NoteNames) => string)(note, names);
}

/** What happened, line by line; the lines up to time t are past. Pressing one goes there. */
export function NoteList(props: {
  label: string;
  notes: readonly Note[];
  project: ProjectDocument;
  t: number;
  onChoose: (t: number) => void;
}) {
  const { label, project, t, onChoose } = props;
  const current = useRef<HTMLLIElement>(null);
  const notes = useMemo(() => props.notes.filter((n) => n.kind !== "ended"), [props.notes]);
  const at = notes.findLastIndex((n) => n.t <= t);
  useEffect(() => {
    current.current?.scrollIntoView({ block: "nearest" });
  }, [at]);
  return (
    <List aria-label={label}>
      {notes.map((note, i) => (
        <li key={i} ref={i === at ? current : undefined}>
          <Line type="button" $past={i <= at} $now={i === at} onClick={() => onChoose(note.t)}>
            <span>{seconds(note.t)}</span>
            <span style={{ whiteSpace: "pre-wrap" }}>{noteWords(note, project)}</span>
          </Line>
        </li>
      ))}
    </List>
  );
}
