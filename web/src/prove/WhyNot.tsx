import { phraseWords } from "@perceptum/core/behaviour";
import type { ModeId, ResponseId } from "@perceptum/core/names";
import type { ResponseReason } from "@perceptum/core/world";
import { useEffect, useMemo, useState } from "react";
import styled from "styled-components";
import { triggerWords } from "../act/triggerWords";
import { useSession } from "../hooks/context";
import { useAppSelector } from "../hooks/store";
import type { LastRun } from "../model/judging/Mentor";
import { Dim, Num, Title } from "../ui/layout";
import { Select } from "../ui/Select";
import { Sign } from "../ui/Sign";
import { seconds } from "../ui/seconds";

const List = styled.ul`
  list-style: none;
  margin: 6px 0;
  padding: 0;
  font-size: 12px;
  & li { display: grid; grid-template-columns: 16px minmax(0, 1fr) auto; gap: 6px; padding: 4px 0; border-top: 1px solid ${({ theme }) => theme.ruleSoft}; }
`;

/** Why a response ran at the playhead, or did not: what it needs, what was short, by how much and since when. */
export function WhyNot({ run, t }: { run: LastRun; t: number }) {
  const { mentor } = useSession();
  const playing = useAppSelector((state) => state.view.playing);
  const [chosen, setChosen] = useState<string | null>(null);
  const [reason, setReason] = useState<ResponseReason>();
  const responses = run.project.behaviour.modes.flatMap((mode) =>
    mode.responses.map((response) => ({
      id: `${mode.id} ${response.id}`,
      text: `${triggerWords(response.when, run.project)}, in ${mode.name}`,
    })),
  );
  useEffect(() => {
    if (chosen === null || playing) return;
    let current = true;
    const [mode, response] = chosen.split(" ") as [ModeId, ResponseId];
    mentor.why(run, t, [mode, response], (found) => current && setReason(found));
    return () => {
      current = false;
    };
  }, [mentor, run, t, chosen, playing]);
  return (
    <section aria-label="Why a response ran or not">
      <Title style={{ marginBottom: 4 }}>Why did a response run, or not?</Title>
      <Select
        label="Response"
        hideLabel
        value={chosen}
        placeholder="Choose a response …"
        options={responses}
        onChange={setChosen}
      />
      {chosen !== null && reason !== undefined && <Reason reason={reason} run={run} />}
    </section>
  );
}

function Reason(props: { reason: ResponseReason; run: LastRun }) {
  const { terms, firedAt, running, response } = props.reason;
  const { project } = props.run;
  const words = useMemo(() => phraseWords(project), [project]);
  const when = project.behaviour.modes
    .flatMap((mode) => mode.responses)
    .find(({ id }) => id === running?.response)?.when;
  const now =
    running === null
      ? "Nothing runs now."
      : running.response === response
        ? `It runs now: ${words.written(running.step)}.`
        : `Now ${when === undefined ? "entering the mode" : `“${words.trigger(when)}”`} runs: ${words.written(running.step)}.`;
  return (
    <div>
      <List aria-label="What it needs">
        {terms.map((term) => (
          <li key={term.text} aria-label={`${term.holds ? "holds" : "does not hold"}: ${term.text}`}>
            <Sign kind={term.holds ? "good" : "bad"} />
            <span>
              {term.text}
              {term.value !== undefined && <Dim> · {term.value}</Dim>}
              {term.short !== undefined && term.short !== "" && <b> · short by {term.short}</b>}
            </span>
            <Num>since {seconds(term.since)}</Num>
          </li>
        ))}
      </List>
      <Dim style={{ fontSize: 12 }}>
        {firedAt === undefined ? "It has not fired so far." : `It last fired at ${seconds(firedAt)}.`} {now}
      </Dim>
    </div>
  );
}
