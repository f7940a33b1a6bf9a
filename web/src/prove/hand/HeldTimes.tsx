import type { PartThing } from "@perceptum/core/edits";
import { type Card, type Course, type DrawnCourse, type Press, paintsOf } from "@perceptum/core/world";
import { useTargets } from "../../hooks/project";
import { timeTicks } from "../../tape/timeTicks";
import { isDark } from "../../targets/Chip";
import { BAR, FOOT, LEFT, RIGHT, ROW, timesScale } from "./timesScale";

/** A card or a press. */
export type HeldThing = Extract<PartThing, { part: "cards" | "presses" }>;
/** What a bar is dragged by. */
export type Grip = "whole" | "end";

/**
 * What is held before the sensors over time: cards as bars at their height, presses in rows below. With `grab` they can
 * be chosen and dragged.
 */
export function HeldTimes(props: {
  course: Course | DrawnCourse;
  bestOf: (index: number) => number;
  reach: number;
  width: number;
  height: number;
  t?: number;
  thing?: PartThing | null;
  grab?: (of: HeldThing, grip: Grip) => (event: React.PointerEvent) => void;
  keys?: (of: HeldThing) => (event: React.KeyboardEvent) => void;
  wordsOf?: (of: HeldThing) => string;
}) {
  const { course, bestOf, reach, width, height, t, thing, grab, keys, wordsOf } = props;
  const targets = useTargets();
  const { endMs, perMs, perMm } = timesScale(course, reach, width, height);
  const x = (ms: number) => LEFT + ms * perMs;
  const buttons = [...new Set(course.presses.map((press) => press.button))];
  const floor = height - FOOT;
  const first = course.cards.length > 0 ? "cards" : "presses";
  const bar = (of: HeldThing, index: number, y: number, paint: string | undefined, text: string) => {
    const chosen = thing?.part === of.part && thing.thing.id === of.thing.id;
    const { atMs: from, forMs } = of.thing;
    const wide = Math.max(3, forMs * perMs);
    const shapes = (
      <>
        <rect
          x={x(from)}
          y={y}
          width={wide}
          height={BAR}
          rx="2"
          fill={paint ?? "var(--hatch)"}
          stroke="currentColor"
          strokeWidth={chosen ? 3 : 1}
        />
        {wide > 8 * text.length && (
          <text
            x={x(from) + wide / 2}
            y={y + 13}
            textAnchor="middle"
            fontSize="11"
            fontWeight="700"
            fill={paint === undefined ? "currentColor" : isDark(paint) ? "#fff" : "#000"}
            fontFamily="Atkinson Hyperlegible Mono Variable, monospace"
          >
            {text}
          </text>
        )}
        {grab && (
          <rect
            x={x(from) + wide - 6}
            y={y - 3}
            width="24"
            height={BAR + 6}
            fill="transparent"
            style={{ cursor: "ew-resize" }}
            onPointerDown={grab(of, "end")}
          />
        )}
      </>
    );
    // What is held while a run plays has no id yet.
    const key = `${of.part} ${of.thing.id ?? index}`;
    if (!grab) return <g key={key}>{shapes}</g>;
    return (
      // biome-ignore lint/a11y/useSemanticElements: a button element cannot stand in a drawing
      <g
        key={key}
        role="button"
        tabIndex={chosen || (thing === null && of.part === first && index === 0) ? 0 : -1}
        aria-pressed={chosen}
        aria-label={[wordsOf?.(of), text].filter(Boolean).join(", ")}
        style={{ cursor: "move" }}
        onPointerDown={grab(of, "whole")}
        onKeyDown={keys?.(of)}
      >
        {shapes}
      </g>
    );
  };
  const ticks = timeTicks(0, endMs);
  return (
    <>
      <path d={ticks.map((tick) => `M${x(tick.t)} 0V${floor}`).join("")} stroke="var(--rule-soft)" fill="none" />
      <path d={`M${LEFT} ${floor}H${width - RIGHT}`} stroke="var(--rule)" fill="none" />
      {ticks.map((tick) => (
        <text key={tick.t} x={x(tick.t)} y={height - 5} textAnchor="middle" fontSize="11" fill="var(--ink-2)">
          {tick.text}
        </text>
      ))}
      {[0, reach / 2].map((mm) => (
        <text key={mm} x={LEFT - 8} y={mm * perMm + 14} textAnchor="end" fontSize="11" fill="var(--ink-2)">
          {mm} mm
        </text>
      ))}
      {course.cards.map((card, index) => {
        const [id, ...others] = paintsOf(card.target);
        const target = targets.get(id);
        const code = others.length > 0 ? `${target?.code ?? ""} …` : (target?.code ?? "");
        const y = (card.heightMm ?? bestOf(index)) * perMm;
        return bar({ part: "cards", thing: card as Card }, index, y, target?.paint, code);
      })}
      {buttons.map((button, row) => (
        <text
          key={button}
          x={LEFT - 8}
          y={floor - ROW * (buttons.length - row) + 16}
          textAnchor="end"
          fontSize="11"
          fill="var(--ink-2)"
          textLength={button.length > 6 ? LEFT - 10 : undefined}
          lengthAdjust="spacingAndGlyphs"
        >
          {button}
        </text>
      ))}
      {course.presses.map((press, index) => {
        const y = floor - ROW * (buttons.length - buttons.indexOf(press.button)) + 2;
        return bar({ part: "presses", thing: press as Press }, index, y, undefined, "");
      })}
      {t !== undefined && <path d={`M${x(Math.min(t, endMs))} 0V${floor}`} stroke="currentColor" strokeWidth="1.5" />}
    </>
  );
}
