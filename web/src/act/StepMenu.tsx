import { parseCondition, TRIGGERS } from "@perceptum/core/behaviour";
import { completions, type Names, type NamesKind, parsePhrase, tellProblem } from "@perceptum/core/phrases";
import { machineOf } from "@perceptum/core/world";
import { Fragment, useState } from "react";
import styled from "styled-components";
import { usePhraseWords } from "../hooks/phraseWords";
import { useProject } from "../hooks/project";

import { Button } from "../ui/Button";
import { Box, Wrong } from "../ui/EntryField";
import { PhraseField } from "../ui/PhraseField";
import { Select } from "../ui/Select";
import { offeredTemplates } from "./offeredSteps";

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
  margin-top: 6px;
  font-size: 12px;
`;

/** What stands in a template: words, or a place to fill in. */
type Part = { words: string } | { place: string; usual: string; key: string };

const PLACE = /\{(\w+)(?: ([^}]*))?\}/g;

function partsOf(template: string): Part[] {
  const parts: Part[] = [];
  let from = 0;
  for (const match of template.matchAll(PLACE)) {
    if (match.index > from) parts.push({ words: template.slice(from, match.index) });
    parts.push({ place: match[1], usual: match[2] ?? "", key: `${match.index}` });
    from = match.index + match[0].length;
  }
  if (from < template.length) parts.push({ words: template.slice(from) });
  return parts;
}

/** Names a template in the menu: its places by their names. A way back is told from one on by its sign. */
const titleOf = (template: string) =>
  template.replace(PLACE, (_, place: string, usual?: string) =>
    usual?.includes("|")
      ? usual.replaceAll("|", "/")
      : `${usual?.startsWith("-") ? "−" : ""}‹${place.replace(/s$/, "")}›`,
  );

/** The names of one kind, as people see them. */
const choicesOf = (names: Names, kind: NamesKind) =>
  names[kind].map((thing) => (typeof thing === "string" ? thing : thing.name));

const isNames = (place: string, names: Names): place is NamesKind => place in names;

/** Tells if a project has something for every place of a template that names things. */
const canBeFilled = (template: string, names: Names) =>
  partsOf(template).every((part) => "words" in part || !isNames(part.place, names) || names[part.place].length > 0);

/** Every step there is, in a menu. */
export function StepMenu({ onInsert }: { onInsert: (phrase: string) => string | undefined }) {
  const { names } = usePhraseWords();
  const { robot } = useProject();
  const templates = offeredTemplates(machineOf(robot).can, (names.cameras?.length ?? 0) > 0);
  return <PhraseMenu one="step" templates={templates} onInsert={onInsert} />;
}

/** Everything that can happen, in a menu. */
export function TriggerMenu({ onInsert }: { onInsert: (phrase: string) => string | undefined }) {
  const { names } = usePhraseWords();
  const templates = TRIGGERS.entries.flatMap((kind) => kind.templates).filter((t) => canBeFilled(t, names));
  return <PhraseMenu one="row" templates={templates} onInsert={onInsert} />;
}

/** Phrases in a menu, each with its places to fill in: nothing has to be known by heart. */
function PhraseMenu(props: {
  /** The word for what is inserted. */
  one: string;
  templates: readonly string[];
  onInsert: (phrase: string) => string | undefined;
}) {
  const { one, templates, onInsert } = props;
  const { names } = usePhraseWords();
  const [template, setTemplate] = useState<string | null>(null);
  const [values, setValues] = useState<Record<string, string>>({});
  const [wrong, setWrong] = useState<string>();
  const parts = template === null ? [] : partsOf(template);

  const usualOf = (place: string, usual: string): string => {
    if (usual !== "") return usual.split("|")[0];
    const first = (kind: NamesKind) => choicesOf(names, kind)[0];
    if (isNames(place, names)) return first(place) ?? "";
    return place === "condition" ? (first("targets") ?? "unknown") : "";
  };
  const choose = (next: string) => {
    setTemplate(next);
    setValues({});
    setWrong(undefined);
  };
  const insert = () => {
    const phrase = parts
      .map((part) => ("words" in part ? part.words : (values[part.key] ?? usualOf(part.place, part.usual))))
      .join("");
    const problem = onInsert(phrase);
    setWrong(problem);
    if (problem === undefined) setTemplate(null);
  };
  return (
    <section aria-label={`Menu of ${one}s`}>
      <Row>
        <Select
          label={`Or choose a ${one}`}
          hideLabel
          value={template}
          placeholder="Or choose one …"
          options={templates.map((t) => ({ id: t, text: titleOf(t) }))}
          onChange={choose}
        />
      </Row>
      {template !== null && (
        <Row role="group" aria-label={`Fields of the ${one}`}>
          {parts.map((part) => {
            if ("words" in part) return <Fragment key={part.words}>{part.words.trim()}</Fragment>;
            const { place, usual, key } = part;
            const value = values[key] ?? usualOf(place, usual);
            const change = (text: string) => setValues((v) => ({ ...v, [key]: text }));
            const choices = usual.includes("|")
              ? usual.split("|")
              : isNames(place, names)
                ? choicesOf(names, place)
                : null;
            const name = place.replace(/s$/, "");
            if (choices !== null)
              return choices.length === 0 ? (
                <b key={key}>there is no {name} yet</b>
              ) : (
                <Select
                  key={key}
                  label={name}
                  hideLabel
                  value={value}
                  options={choices.map((c) => ({ id: c, text: c }))}
                  onChange={change}
                />
              );
            if (place === "condition")
              return (
                <PhraseField
                  key={key}
                  label={name}
                  text={value}
                  take={(text) => {
                    const read = parsePhrase(text.trim(), names, parseCondition);
                    if ("problem" in read) return tellProblem(read.problem);
                    change(text);
                    return undefined;
                  }}
                  complete={(text) => completions(text, names, parseCondition)}
                />
              );
            return (
              <Box
                key={key}
                aria-label={name}
                style={{ width: place === "text" || place === "step" ? 150 : 52 }}
                value={value}
                onChange={(event) => change(event.target.value)}
                onKeyDown={(event) => event.key === "Enter" && insert()}
              />
            );
          })}
          <Button $small onPress={insert}>
            Insert
          </Button>
        </Row>
      )}
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
    </section>
  );
}
