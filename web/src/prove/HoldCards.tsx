import type { Unlisted } from "@perceptum/core/names";
import type { Target } from "@perceptum/core/rules";
import type { Card, Live, Press } from "@perceptum/core/world";
import { memo, useEffect, useRef } from "react";
import { ToggleButton } from "react-aria-components";
import { useStore } from "react-redux";
import styled from "styled-components";
import { useEdit } from "../hooks/project";
import type { LastRun } from "../model/judging/Mentor";
import type { AppState } from "../model/store/store";
import { Chip } from "../targets/Chip";
import { Button } from "../ui/Button";
import { Dim, KeyHint } from "../ui/layout";
import { singleKeysWork } from "../ui/singleKeys";
import { takesKeys } from "../ui/takesKeys";

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 6px;
  margin-top: 6px;
  font-size: 12px;
`;
const Hold = styled(ToggleButton)`
  border: 1px dashed ${({ theme }) => theme.edge};
  background: none;
  border-radius: ${({ theme }) => theme.radius};
  padding: 2px 4px;
  display: inline-flex;
  gap: 3px;
  align-items: center;
  &[data-pressed] { border: 1px solid ${({ theme }) => theme.ink}; background: ${({ theme }) => theme.pressed}; }
`;

/** While it is still held, a card stays to the end of the run. */
const STILL_HELD_MS = 3_600_000;
/** The shortest that a hand can hold something, in ms. */
const SHORTEST_MS = 40;
const NOTHING: Live = { cards: [], presses: [] };

type Held = { card: Target } | { button: string };

function withHeld(before: Live, what: Held, atMs: number, forMs: number): Live {
  if ("card" in what)
    return { ...before, cards: [...before.cards, { target: what.card.id, atMs, forMs } satisfies Unlisted<Card>] };
  return { ...before, presses: [...before.presses, { button: what.button, atMs, forMs } satisfies Unlisted<Press>] };
}

/**
 * Cards held before the robot's first sensor and buttons pressed while the run plays, by pointer or keys; what was held
 * is kept with the run, which is made again with it from then on, the same up to then.
 */
export const HoldCards = memo(function HoldCards({ run, onLive }: { run: LastRun; onLive: (live: Live) => void }) {
  const edit = useEdit();
  const live = run.choice.live ?? NOTHING;
  // What was asked for last: the run with it may still be under way when the next card is held up.
  const asked = useRef(live);
  if (run.choice.live === undefined) asked.current = NOTHING;
  const store = useStore<AppState>();
  const now = () => Math.round((store.getState().view.playheads.run ?? 0) / 5) * 5;
  const held = useRef<{ what: Held; from: number; before: Live } | null>(null);
  const order = run.project.targets.slice(0, 9);

  const ask = (next: Live) => {
    asked.current = next;
    onLive(next);
  };
  const begin = (what: Held) => {
    if (held.current !== null) return;
    const from = now();
    held.current = { what, from, before: asked.current };
    ask(withHeld(asked.current, what, from, STILL_HELD_MS));
  };
  const end = () => {
    if (held.current === null) return;
    const { what, from, before } = held.current;
    held.current = null;
    ask(withHeld(before, what, from, Math.max(SHORTEST_MS, now() - from)));
  };
  const keys = useRef({ begin, end, order });
  keys.current = { begin, end, order };
  useEffect(() => {
    let down: string | null = null;
    const onDown = (event: KeyboardEvent) => {
      if (event.repeat || event.ctrlKey || event.metaKey || event.altKey || takesKeys(event.target)) return;
      if (!singleKeysWork()) return;
      const card = /^[1-9]$/.test(event.key) ? keys.current.order[Number(event.key) - 1] : undefined;
      if (card === undefined || down !== null) return;
      event.preventDefault();
      down = event.key;
      keys.current.begin({ card });
    };
    const onUp = (event: KeyboardEvent) => {
      if (event.key !== down) return;
      down = null;
      keys.current.end();
    };
    // Whoever goes to another window lets go of it.
    const onBlur = () => {
      down = null;
      keys.current.end();
    };
    window.addEventListener("keydown", onDown);
    window.addEventListener("keyup", onUp);
    window.addEventListener("blur", onBlur);
    return () => {
      window.removeEventListener("blur", onBlur);
      window.removeEventListener("keydown", onDown);
      window.removeEventListener("keyup", onUp);
    };
  }, []);
  const count = live.cards.length + live.presses.length;
  const write = () =>
    edit("keepHeld", { course: run.trace.course.id, cards: [...live.cards], presses: [...live.presses] });
  return (
    <Row role="group" aria-label="Hold before the sensor">
      <Dim>hold up</Dim>
      {order.map((target, i) => (
        <Hold
          key={target.id}
          isSelected={false}
          aria-label={`Hold ${target.name} before the sensor, ${target.code}`}
          onPressStart={() => begin({ card: target })}
          onPressEnd={end}
        >
          <KeyHint data-key={i + 1} />
          <Chip target={target} />
        </Hold>
      ))}
      {run.project.robot.buttons.map((button) => (
        <Hold
          key={button}
          isSelected={false}
          aria-label={`Press the button ${button}`}
          onPressStart={() => begin({ button })}
          onPressEnd={end}
        >
          {button}
        </Hold>
      ))}
      {count > 0 && (
        <>
          <Dim>{count} held in this run</Dim>
          <Button $small onPress={() => ask(NOTHING)}>
            Without
          </Button>
          <Button $small onPress={write}>
            Write into the course
          </Button>
        </>
      )}
    </Row>
  );
});
