import {
  type Condition,
  parseCondition,
  parseTrigger,
  parseTriggerFrom,
  type Response,
  targetsOf,
} from "@perceptum/core/behaviour";
import type { ArgsOf } from "@perceptum/core/edits";
import type { ModeId } from "@perceptum/core/names";
import { completions, parsePhrase, tellProblem } from "@perceptum/core/phrases";
import { useState } from "react";
import { usePhraseWords } from "../hooks/phraseWords";
import { useEdit, useProject } from "../hooks/project";
import { useAppDispatch } from "../hooks/store";
import { type Cell, cellChosen } from "../model/store/act";
import { Choice, QuietButton } from "../ui/Button";
import { useThingDrag } from "../ui/dragging";
import { EntryField } from "../ui/EntryField";
import { Dim, Head, Title } from "../ui/layout";
import { PhraseField } from "../ui/PhraseField";
import { Select } from "../ui/Select";
import { typedNumber } from "../ui/typed";
import { CopyResponseSheet } from "./CopyResponseSheet";
import { RESPONSE } from "./ResponseGrid";
import { StepList } from "./StepList";
import { triggerWords } from "./triggerWords";

export function ResponseEditor({
  cell,
  response,
  modeName,
}: {
  cell: Extract<Cell, { response: string }>;
  response: Response;
  modeName: string;
}) {
  const project = useProject();
  const words = usePhraseWords();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const mode = project.behaviour.modes.find((m) => m.id === cell.mode);
  const at = mode?.responses.indexOf(response) ?? 0;
  const name = triggerWords(response.when, project);
  const [copying, setCopying] = useState(false);
  const others = project.behaviour.modes.filter((m) => m.id !== cell.mode);
  const of = { mode: cell.mode, response: response.id };
  const { dragButtonProps } = useThingDrag(RESPONSE, `${of.mode} ${of.response}`, name, ["move", "copy"]);
  const set = (change: ArgsOf<"changeResponse">["change"]) => edit("changeResponse", { ...of, change });

  const moveBy = (step: 1 | -1) => {
    const others = mode?.responses.filter((r) => r !== response) ?? [];
    edit("moveResponse", { ...of, before: others[at + step]?.id ?? null });
  };

  const takeGuard = (text: string) => {
    if (text.trim() === "") return set({ guard: null });
    const parsed = parsePhrase<Condition>(text.trim(), words.names, parseCondition);
    if ("problem" in parsed) return `${tellProblem(parsed.problem)} The guard stays as it was.`;
    return set({ guard: parsed.value });
  };
  const takeWhen = (text: string) => {
    const parsed = parseTrigger(text.trim(), words.names);
    if ("problem" in parsed) return `${tellProblem(parsed.problem)} It stays as it was.`;
    return set({ when: parsed.value });
  };
  const takeRest = (text: string) => {
    const seconds = typedNumber(text);
    if (!(seconds >= 0 && seconds <= 3600)) return "The time between starts lies from 0 to 3600 s.";
    return set({ restMs: seconds === 0 ? null : Math.round(seconds * 1000) });
  };
  const nexts = [
    { id: "stay", text: "stay in this mode" },
    ...project.behaviour.modes.map((m) => ({ id: m.id as string, text: `go to ${m.name}` })),
    { id: "finish", text: "finish" },
  ];
  return (
    <>
      <Head>
        <Title>
          {name}, in {modeName}
        </Title>
      </Head>
      <PhraseField
        label="When"
        text={words.trigger(response.when)}
        complete={(text) => completions(text, words.names, parseTriggerFrom)}
        take={takeWhen}
      />
      <Title style={{ margin: "10px 0 4px" }}>Steps</Title>
      <StepList key={response.id} at={of} />
      <Title style={{ margin: "12px 0 4px" }}>Then</Title>
      <Select
        label="Then"
        hideLabel
        value={response.then ?? "stay"}
        options={nexts}
        onChange={(next) => set({ then: next === "stay" ? null : (next as ModeId | "finish") })}
      />
      <Title style={{ margin: "12px 0 4px" }}>Only if</Title>
      <PhraseField
        label="Only if"
        complete={(text) => completions(text, words.names, parseCondition)}
        text={response.guard ? words.condition(response.guard) : ""}
        placeholder="always; or a condition like sat >= 50 %"
        take={takeGuard}
      />
      <Title style={{ margin: "12px 0 4px" }}>Fires</Title>
      <Choice
        label="Fires"
        value={response.fires}
        options={[
          // Only targets make visits.
          { id: "once per visit", text: targetsOf(response.when).length > 0 ? "once per visit" : "once each time" },
          { id: "while present", text: "while present" },
        ]}
        onChange={(fires) => set({ fires })}
      />
      {response.fires === "while present" && (
        <Dim style={{ fontSize: 12 }}>
          at least <EntryField mono label="Rest in s" text={String((response.restMs ?? 0) / 1000)} take={takeRest} /> s
          between starts
        </Dim>
      )}
      <Title style={{ margin: "12px 0 4px" }}>If another response is running</Title>
      <Choice
        label="If another response is running"
        value={response.busy}
        options={[
          { id: "let it finish", text: "let it finish" },
          { id: "take over", text: "take over" },
        ]}
        onChange={(busy) => set({ busy })}
      />
      <div style={{ display: "flex", flexWrap: "wrap", marginTop: 10, marginLeft: -5 }}>
        <QuietButton onPress={() => set({ on: !response.on })}>{response.on ? "Switch off" : "Switch on"}</QuietButton>
        <QuietButton isDisabled={at === 0} onPress={() => moveBy(-1)}>
          ↑ earlier
        </QuietButton>
        <QuietButton isDisabled={at === (mode?.responses.length ?? 1) - 1} onPress={() => moveBy(1)}>
          ↓ later
        </QuietButton>
        <QuietButton {...dragButtonProps}>Drag to a mode …</QuietButton>
        <QuietButton onPress={() => setCopying(true)}>Copy to …</QuietButton>
        <QuietButton
          onPress={() => {
            edit("deleteResponse", of);
            dispatch(cellChosen(null));
          }}
        >
          Delete
        </QuietButton>
      </div>
      {copying && <CopyResponseSheet mode={cell.mode} response={response} onClose={() => setCopying(false)} />}
      {others.length > 0 && (
        <Select
          label="move to mode"
          value={null}
          placeholder="choose"
          options={others.map((m) => ({ id: m.id as string, text: m.name }))}
          onChange={(to) => {
            edit("moveResponseTo", { ...of, to: to as ModeId });
            dispatch(cellChosen({ mode: to as ModeId, response: response.id }));
          }}
        />
      )}
      <Dim style={{ fontSize: 11.5 }}>
        {at + 1}. of {mode?.responses.length} in {modeName}
      </Dim>
    </>
  );
}
