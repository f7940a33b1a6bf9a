import { type Note, type PhraseWords, phraseWords } from "@perceptum/core/behaviour";
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
const Row = styled.button<{ $past: boolean; $now: boolean }>`
  border: 0;
  background: none;
  padding: 0 4px;
  min-height: 24px;
  align-items: center;
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
/** A project's words for what notes speak of. */
interface NoteNames extends PhraseWords {
  response(mode: string, id: string): string;
}
const WORDS: { [K in Note["kind"]]: (note: NoteOf<K>, names: NoteNames) => string } = {
  arrives: (n, { show }) => `${show("sensor", n.sensor)} sees ${show("target", n.target)} arrive`,
  departs: (n, { show }) => `${show("sensor", n.sensor)} sees ${show("target", n.target)} depart`,
  fires: (n, { response }) => `→ ${response(n.mode, n.response)}`,
  dropped: (n, { response }) => `${response(n.mode, n.response)}: skipped, another response is running`,
  step: (n, { written }) => `  ${written(n.phrase)}`,
  mode: (n, { show }) => `mode ${show("mode", n.mode)}`,
  counter: (n) => `  ${n.counter} is ${n.value}`,
  list: (n, { show }) => `  ${n.list} holds ${n.targets.map((target) => show("target", target)).join(", ")}`,
  log: (n) => n.text,
  gate: (n, { show }) => `  ${show("gate", n.gate)} ${n.open ? "opens" : "closes"}`,
  piece: (n, { show }) =>
    n.into === null
      ? `! ${show("gate", n.gate ?? "")} jams piece ${n.piece + 1} (${show("target", n.target)})`
      : `piece ${n.piece + 1} (${show("target", n.target)}) falls into ${show("crate", n.into)}`,
  trouble: (n) => `! ${n.text}`,
  ended: () => "ended",
  finish: () => "finished",
};

/** Notes in the words of a project. */
export function noteWriter(project: ProjectDocument): (note: Note) => string {
  const words = phraseWords(project);
  const names: NoteNames = {
    ...words,
    response(mode, id) {
      const when = project.behaviour.modes.find((m) => m.id === mode)?.responses.find((r) => r.id === id)?.when;
      return when === undefined ? id : words.trigger(when);
    },
  };
  return (note) => (WORDS[note.kind] as (note: Note, names: NoteNames) => string)(note, names);
}

/** What happened, line by line; the lines up to time t are past. Pressing one goes there, where there is somewhere to go. */
export function NoteList(props: {
  label: string;
  notes: readonly Note[];
  project: ProjectDocument;
  t: number;
  onChoose?: (t: number) => void;
}) {
  const { label, project, t, onChoose } = props;
  const current = useRef<HTMLLIElement>(null);
  const notes = useMemo(() => props.notes.filter((n) => n.kind !== "ended"), [props.notes]);
  const write = useMemo(() => noteWriter(project), [project]);
  const at = notes.findLastIndex((n) => n.t <= t);
  useEffect(() => {
    current.current?.scrollIntoView({ block: "nearest" });
  }, [at]);
  return (
    <List aria-label={label}>
      {notes.map((note, i) => (
        <li key={i} ref={i === at ? current : undefined}>
          <Row
            {...(onChoose === undefined
              ? { as: "div" as const }
              : { type: "button" as const, onClick: () => onChoose(note.t) })}
            $past={i <= at}
            $now={i === at}
          >
            <span>{seconds(note.t)}</span>
            <span style={{ whiteSpace: "pre-wrap" }}>{write(note)}</span>
          </Row>
        </li>
      ))}
    </List>
  );
}
