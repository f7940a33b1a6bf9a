import { type PictureName, pictureRows } from "@perceptum/core/behaviour";
import styled from "styled-components";
import { Button } from "../ui/Button";
import { Num, Spacer } from "../ui/layout";
import type { RunMoment } from "./momentOf";

const Strip = styled.section`
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 34px;
  margin-top: 6px;
  font-size: 12px;
  color: ${({ theme }) => theme.ink2};
  & > span { display: inline-flex; align-items: center; gap: 5px; white-space: nowrap; }
`;
const Glass = styled.svg`
  background: #16181a;
  border-radius: 2px;
  flex: none;
`;

const PIXEL = 3;

/** What the robot shows at an instant: its display, lamps and servos, and what sounds or is said. */
export function RobotFace(props: {
  now: RunMoment;
  lamps: readonly string[];
  sounds: boolean;
  onSounds: (on: boolean) => void;
}) {
  const { now, lamps, sounds, onSounds } = props;
  const colourOf = (lamp: string) => now.lamps.find(({ name }) => name === lamp)?.colour ?? null;
  const lit = [{ name: "lamp", colour: now.lamp }, ...lamps.map((name) => ({ name, colour: colourOf(name) }))];
  const words = [
    now.picture ?? (now.display === "" ? "display empty" : `display “${now.display}”`),
    ...lit.map(({ name, colour }) => `${name} ${colour === null ? "off" : "lit"}`),
    ...now.servos.map(({ name, degrees }) => `${name} at ${degrees.toFixed(0)}°`),
    now.sound,
  ];
  return (
    <Strip aria-label="The robot shows" aria-description={words.filter((word) => word !== "").join(", ")}>
      <Display text={now.display} picture={now.picture} />
      {lit.map(({ name, colour }) => (
        <span key={name}>
          <svg width="14" height="14" viewBox="-7 -7 14 14" aria-hidden>
            <circle r="5.5" fill={colour ?? "none"} stroke="currentColor" strokeWidth="1.2" />
          </svg>
          {name}
        </span>
      ))}
      {now.servos.map(({ name, degrees }) => (
        <span key={name}>
          <svg width="22" height="14" viewBox="-11 -11 22 14" aria-hidden>
            <path d="M-10 0A10 10 0 0 1 10 0" fill="none" stroke="currentColor" />
            <line x2="9" transform={`rotate(${-degrees})`} stroke="currentColor" strokeWidth="2" />
          </svg>
          {name} <Num>{degrees.toFixed(0)}°</Num>
        </span>
      ))}
      <span>{now.sound}</span>
      <Spacer />
      <Button $small aria-pressed={sounds} onPress={() => onSounds(!sounds)}>
        {sounds ? "Sound on" : "Sound off"}
      </Button>
    </Strip>
  );
}

/** The robot's display: 16 × 8 pixels with a picture, or a text. */
function Display({ text, picture }: { text: string; picture: PictureName | null }) {
  return (
    <Glass
      width={16 * PIXEL + 4}
      height={8 * PIXEL + 4}
      viewBox={`-2 -2 ${16 * PIXEL + 4} ${8 * PIXEL + 4}`}
      aria-hidden
    >
      {picture !== null &&
        pictureRows(picture).map((row, y) =>
          row.map(
            (on, x) =>
              on && (
                <rect
                  key={`${x} ${y}`}
                  x={x * PIXEL}
                  y={y * PIXEL}
                  width={PIXEL - 0.4}
                  height={PIXEL - 0.4}
                  fill="#f2f2ee"
                />
              ),
          ),
        )}
      {picture === null && text !== "" && (
        <text
          x={8 * PIXEL}
          y={4 * PIXEL + 4}
          fontSize="11"
          textAnchor="middle"
          fill="#f2f2ee"
          fontFamily="Atkinson Hyperlegible Mono Variable, monospace"
          textLength={text.length > 7 ? 16 * PIXEL : undefined}
          lengthAdjust="spacingAndGlyphs"
        >
          {text}
        </text>
      )}
    </Glass>
  );
}
