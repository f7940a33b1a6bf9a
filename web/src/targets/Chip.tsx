import { hexToRgb } from "@perceptum/core/colour";
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
  color: ${({ $dark }) => ($dark ? "#fff" : "#111")};
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
`;

/** Whether white letters read better than black on a paint. */
export function isDark(paint: string): boolean {
  const [r, g, b] = hexToRgb(paint);
  return 0.2126 * r + 0.7152 * g + 0.0722 * b < 0.58;
}

/** A target: its paint with its two letters; backgrounds are hatched. Unknown is an empty chip. */
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
      >
        ??
      </Body>
    );
  }
  return (
    <Body $paint={target.paint} $dark={isDark(target.paint)} $ground={target.kind === "background"} aria-hidden>
      {target.code}
    </Body>
  );
}
