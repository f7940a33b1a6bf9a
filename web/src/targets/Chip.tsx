import { displayToLinear, hexToRgb } from "@perceptum/core/colour";
import type { Target } from "@perceptum/core/rules";
import styled, { css } from "styled-components";

const Body = styled.span<{ $paint: string; $dark: boolean; $ground: boolean }>`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  min-width: 24px;
  height: 18px;
  border-radius: 2px;
  flex: none;
  font: 700 10px/1 ${({ theme }) => theme.mono};
  color: ${({ $dark }) => ($dark ? "#fff" : "#000")};
  border: 1px solid rgb(0 0 0 / 40%);
  background-color: ${({ $paint }) => $paint};
  ${({ $ground, $dark }) =>
    $ground &&
    css`
      background-image: repeating-linear-gradient(
        135deg,
        transparent 0 3px,
        ${$dark ? "rgb(255 255 255 / 28%)" : "rgb(0 0 0 / 20%)"} 3px 4px
      );
    `}
  &::before { content: attr(data-code); }
`;

/** Where white and black letters stand out alike, as a relative luminance (WCAG 2.2): either has 4.58 : 1 there. */
const EVEN = Math.sqrt(1.05 * 0.05) - 0.05;

/** Whether white letters stand out more than black ones on a paint. */
export function isDark(paint: string): boolean {
  const [r, g, b] = hexToRgb(paint).map(displayToLinear);
  return 0.2126 * r + 0.7152 * g + 0.0722 * b < EVEN;
}

/**
 * A target: its paint with its code; backgrounds are hatched. Unknown is an empty chip. It is a picture beside a name:
 * a control that shows nothing else has the code in its own name, for people who speak to the page.
 */
export function Chip({ target }: { target: Target | undefined }) {
  if (target === undefined) {
    return (
      <Body
        as="span"
        $paint="transparent"
        $dark={false}
        $ground={false}
        style={{ color: "inherit", borderStyle: "dashed", borderColor: "currentColor" }}
        aria-hidden
        data-code="??"
      />
    );
  }
  return (
    <Body
      $paint={target.paint}
      $dark={isDark(target.paint)}
      $ground={target.kind === "background"}
      aria-hidden
      data-code={target.code}
    />
  );
}
