import { type PictureName, pictureRows } from "@perceptum/core/behaviour";
import styled, { css } from "styled-components";
import { Button } from "../ui/Button";
import { Num, Spacer } from "../ui/layout";
import type { RunMoment } from "./momentOf";

/** What belongs together stands in a row of the strip, or in two columns where there is room. */
const Together = styled.div`
  display: contents;
`;

const Strip = styled.section<{ $large: boolean }>`
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 34px;
  margin-top: 6px;
  ${({ $large }) =>
    $large &&
    css`
      flex-direction: column;
      align-items: flex-start;
      gap: 10px;
      height: 100%;
      margin: 0;
      padding: 12px;
      overflow: auto;
      & > ${Together} { display: grid; grid-template-columns: 1fr 1fr; gap: 10px 12px; width: 100%; }
    `}
  font-size: 12px;
  color: ${({ theme }) => theme.ink2};
  & span { display: inline-flex; align-items: center; gap: 5px; white-space: nowrap; }
`;
const Glass = styled.svg`
  background: #16181a;
  border-radius: 2px;
  flex: none;
`;

/** The side of a pixel of the display, and how much larger signs are, in a strip and where there is room. */
const SIZES = { strip: { pixel: 3, sign: 1 }, large: { pixel: 11, sign: 1.8 } };

/** What the robot shows at an instant: its display, lamps and servos, and what sounds or is said. */
export function RobotFace(props: {
  now: RunMoment;
  lamps: readonly string[];
  buttons: readonly string[];
  large: boolean;
  sounds: boolean;
  onSounds: (on: boolean) => void;
}) {
  const { now, lamps, buttons, large, sounds, onSounds } = props;
  const { pixel, sign } = large ? SIZES.large : SIZES.strip;
  const colourOf = (lamp: string) => now.lamps.find(({ name }) => name === lamp)?.colour ?? null;
  const lit = [{ name: "lamp", colour: now.lamp }, ...lamps.map((name) => ({ name, colour: colourOf(name) }))];
  const words = [
    now.picture ?? (now.display === "" ? "display empty" : `display “${now.display}”`),
    ...lit.map(({ name, colour }) => `${name} ${colour === null ? "off" : "lit"}`),
    ...now.servos.map(({ name, degrees }) => `${name} at ${degrees.toFixed(0)}°`),
    ...now.pressed.map((button) => `${button} pressed`),
    now.sound,
  ];
  return (
    <Strip
      $large={large}
      aria-label="The robot shows"
      aria-description={words.filter((word) => word !== "").join(", ")}
    >
      <Display text={now.display} picture={now.picture} pixel={pixel} />
      <Together>
        {lit.map(({ name, colour }) => (
          <span key={name}>
            <svg width={14 * sign} height={14 * sign} viewBox="-7 -7 14 14" aria-hidden>
              <circle r="5.5" fill={colour ?? "none"} stroke="currentColor" strokeWidth="1.2" />
            </svg>
            {name}
          </span>
        ))}
        {now.servos.map(({ name, degrees }) => (
          <span key={name}>
            <svg width={22 * sign} height={14 * sign} viewBox="-11 -11 22 14" aria-hidden>
              <path d="M-10 0A10 10 0 0 1 10 0" fill="none" stroke="currentColor" />
              <line x2="9" transform={`rotate(${-degrees})`} stroke="currentColor" strokeWidth="2" />
            </svg>
            {name} <Num>{degrees.toFixed(0)}°</Num>
          </span>
        ))}
        {buttons.map((button) => (
          <span key={button}>
            <svg width={14 * sign} height={14 * sign} viewBox="-7 -7 14 14" aria-hidden>
              <rect
                x="-5.5"
                y="-5.5"
                width="11"
                height="11"
                rx="2"
                fill="none"
                stroke="currentColor"
                strokeWidth="1.2"
              />
              {now.pressed.includes(button) && <circle r="3.5" fill="currentColor" />}
            </svg>
            {button}
          </span>
        ))}
      </Together>
      <span>{now.sound}</span>
      <Spacer />
      <Button $small aria-pressed={sounds} onPress={() => onSounds(!sounds)}>
        {sounds ? "Sound on" : "Sound off"}
      </Button>
    </Strip>
  );
}

/** The robot's display: 16 × 8 pixels with a picture, or a text. */
function Display({ text, picture, pixel }: { text: string; picture: PictureName | null; pixel: number }) {
  return (
    <Glass
      width={16 * pixel + 4}
      height={8 * pixel + 4}
      viewBox={`-2 -2 ${16 * pixel + 4} ${8 * pixel + 4}`}
      aria-hidden
    >
      {picture !== null &&
        pictureRows(picture).map((row, y) =>
          row.map(
            (on, x) =>
              on && (
                <rect
                  key={`${x} ${y}`}
                  x={x * pixel}
                  y={y * pixel}
                  width={pixel - 0.4}
                  height={pixel - 0.4}
                  fill="#f2f2ee"
                />
              ),
          ),
        )}
      {picture === null && text !== "" && (
        <text
          x={8 * pixel}
          y={4 * pixel * 1.35}
          fontSize={3.7 * pixel}
          textAnchor="middle"
          fill="#f2f2ee"
          fontFamily="Atkinson Hyperlegible Mono Variable, monospace"
          textLength={text.length > 7 ? 16 * pixel : undefined}
          lengthAdjust="spacingAndGlyphs"
        >
          {text}
        </text>
      )}
    </Glass>
  );
}
