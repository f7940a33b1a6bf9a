import { talkThrough } from "@perceptum/core/behaviour";
import { machineOf } from "@perceptum/core/world";
import styled from "styled-components";
import { useProject } from "../hooks/project";
import { Button } from "../ui/Button";
import { Head, Spacer, Title } from "../ui/layout";

const Sheet = styled.article`
  overflow: auto;
  background: ${({ theme }) => theme.sheet};
  border: 1px solid ${({ theme }) => theme.rule};
  padding: 14px 20px;
  line-height: 1.55;
  font-size: 14px;
  max-width: 76ch;
  & h3 { font-size: 13px; font-weight: 700; margin: 14px 0 4px; }
  & h3:first-child { margin-top: 0; }
  & p { margin: 0 0 5px; }
  @media print {
    position: fixed;
    inset: 0;
    z-index: 100;
    border: 0;
    max-width: none;
    color: #000;
    background: #fff;
  }
`;

/** The behaviour as plain sentences, to read aloud or print. */
export function BehaviourWords() {
  const project = useProject();
  const { crates = [], gates = [] } = machineOf(project.robot).belt ?? {};
  const name = (id: string) =>
    [...project.targets, ...project.sensors, ...crates, ...gates].find((x) => x.id === id)?.name ?? id;
  return (
    <>
      <Head>
        <Title>In words</Title>
        <Spacer />
        <Button $small onPress={() => window.print()}>
          Print
        </Button>
      </Head>
      <Sheet tabIndex={0} aria-label="The behaviour in words">
        {talkThrough(project.behaviour, name).map(({ title, sentences }) => (
          <section key={title}>
            <h3>{title}</h3>
            {sentences.map((sentence, i) => (
              <p key={`${i} ${sentence}`}>{sentence}</p>
            ))}
          </section>
        ))}
      </Sheet>
    </>
  );
}
