import { parseInput, type Routine } from "@perceptum/core/behaviour";
import { usesOfInput } from "@perceptum/core/edits";
import { Id } from "@perceptum/core/names";
import { capital, INPUT_KINDS, tellProblem } from "@perceptum/core/phrases";
import styled from "styled-components";
import { usePhraseWords } from "../hooks/phraseWords";
import { useEdit, useProject } from "../hooks/project";
import { QuietButton } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { Title } from "../ui/layout";

const Fields = styled.div`
  display: grid;
  grid-template-columns: minmax(72px, 2fr) minmax(90px, 3fr) 24px;
  gap: 4px;
  align-items: center;
  margin: 2px 0 10px;
  & > p { grid-column: 1 / -1; }
`;

/** The inputs of a routine: each with the name that its steps say, and the value that it starts from. */
export function RoutineInputs({ routine }: { routine: string }) {
  const project = useProject();
  const edit = useEdit();
  const { names } = usePhraseWords();
  const { inputs = [] } = project.behaviour.routines.find(({ id }) => id === routine) ?? {};
  const add = (text: string) => {
    const read = parseInput(text.trim(), names);
    return "problem" in read ? tellProblem(read.problem) : edit("addInput", { routine, input: read.value });
  };
  return (
    <>
      <Title style={{ margin: "0 0 4px" }}>Takes</Title>
      <Fields role="group" aria-label="Takes">
        {inputs.map((input) => (
          <InputFields key={input.name} routine={routine} input={input} />
        ))}
        <div style={{ gridColumn: "1 / -1" }}>
          <EntryField
            clearAfter
            wide
            label="Add what it takes"
            text=""
            placeholder="a name and a value: time 2 s"
            take={add}
          />
        </div>
      </Fields>
    </>
  );
}

type Input = NonNullable<Routine["inputs"]>[number];

function InputFields({ routine, input: { name, kind, value } }: { routine: string; input: Input }) {
  const project = useProject();
  const edit = useEdit();
  const { names, show } = usePhraseWords();
  const isUsed = usesOfInput(project, routine, name).length > 0;
  const rename = (text: string) => {
    const to = text.trim();
    const checked = Id.safeParse(to);
    if (!checked.success) return `“${to}” cannot be its name: ${checked.error.issues[0].message}.`;
    return edit("renameInput", { routine, input: name, to });
  };
  const start = (text: string) => {
    const read = parseInput(`it ${text.trim()}`, names);
    if ("problem" in read) return tellProblem(read.problem);
    if (read.value.kind !== kind) return `${capital(INPUT_KINDS[kind])} is expected, as it was before.`;
    return edit("changeInput", { routine, input: name, value: read.value.value });
  };
  const shown = kind === "target" ? show("target", value) : value;
  return (
    <>
      <EntryField wide label={`Name of what it takes: ${name}`} text={name} take={rename} />
      <EntryField wide label={`${name} starts from`} text={shown} take={start} />
      <QuietButton
        isDisabled={isUsed}
        aria-label={isUsed ? `${name} is in use` : `Take ${name} away`}
        onPress={() => edit("deleteInput", { routine, input: name })}
      >
        ×
      </QuietButton>
    </>
  );
}
