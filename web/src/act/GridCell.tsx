import type { Response, Step } from "@perceptum/core/behaviour";
import styled from "styled-components";
import { usePhraseWords } from "../hooks/phraseWords";
import { useProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { type Cell, cellChosen } from "../model/store/act";
import { QuietButton } from "../ui/Button";
import { unbroken } from "../ui/unbroken";

const Face = styled(QuietButton)<{ $chosen: boolean; $ignored?: boolean; $off?: boolean }>`
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  width: 100%;
  height: 100%;
  min-height: ${({ $ignored }) => ($ignored ? 28 : 46)}px;
  text-align: left;
  padding: 6px 8px;
  font-size: 12px;
  border-radius: 0;
  color: ${({ theme, $ignored }) => ($ignored ? theme.ink3 : theme.ink)};
  ${({ theme, $ignored }) => $ignored && `background: repeating-linear-gradient(135deg, ${theme.hatch} 0 6px, ${theme.sheet} 6px 12px);`}
  ${({ theme, $chosen }) => $chosen && `outline: 2px solid ${theme.ink}; outline-offset: -2px;`}
  ${({ theme, $off }) => $off && `color: ${theme.ink3}; text-decoration: line-through;`}
  & small { display: block; font-size: 11px; color: ${({ theme }) => theme.ink2}; margin-top: 2px; }
  & b { font-weight: 650; }
`;

/** Said only where one looks: a large behaviour ignores most of what can happen. */
const Quiet = styled.span`
  opacity: 0;
  ${Face}:is([data-hovered], [data-focused], [aria-pressed="true"]) & { opacity: 1; }
`;

const sameCell = (a: Cell, b: Cell | null) => b !== null && JSON.stringify(a) === JSON.stringify(b);

export function GridCell({
  cell,
  name,
  steps,
  response,
  tabStop = false,
}: {
  cell: Cell;
  name: string;
  steps?: readonly Step[];
  response?: Response;
  /** Tab comes to this cell while none is chosen; from there the arrow keys go on. */
  tabStop?: boolean;
}) {
  const chosen = useAppSelector((state) => sameCell(cell, state.act.cell));
  const noneChosen = useAppSelector(({ act }) => act.cell === null || !("mode" in act.cell));
  const dispatch = useAppDispatch();
  const { modes } = useProject().behaviour;
  const words = usePhraseWords();
  const next = modes.find((m) => m.id === response?.then)?.name ?? response?.then;
  const sentence = steps?.map(words.step).join(", ") ?? "ignored";
  const empty = response ? "no steps yet" : "nothing";
  const more = [
    response?.guard && "guarded",
    response?.fires === "while present" && "while present",
    response?.busy === "take over" && "takes over",
    next && `→ ${next}`,
  ]
    .filter(Boolean)
    .join(" · ");
  return (
    <Face
      $chosen={chosen}
      $ignored={steps === undefined}
      $off={response?.on === false}
      data-cell
      excludeFromTabOrder={!chosen && !(tabStop && noneChosen)}
      aria-pressed={chosen}
      aria-label={`${name}: ${sentence || empty}${more && `, ${more}`}${response?.on === false ? ", off" : ""}`}
      onPress={() => dispatch(cellChosen(cell))}
    >
      <span>
        {steps === undefined ? (
          <Quiet>ignored</Quiet>
        ) : steps.length === 0 ? (
          <i>{empty}</i>
        ) : (
          steps.map((step, i) => <Words key={`${i} ${step.step}`} phrase={words.step(step)} comma={i > 0} />)
        )}
      </span>
      {more !== "" && <small> {more}</small>}
    </Face>
  );
}

/** A step with its first word heavy. */
function Words({ phrase, comma }: { phrase: string; comma: boolean }) {
  const [first, ...rest] = unbroken(phrase).split(" ");
  return (
    <>
      {comma && ", "}
      <b>{first}</b>
      {rest.length > 0 && ` ${rest.join(" ")}`}
    </>
  );
}
