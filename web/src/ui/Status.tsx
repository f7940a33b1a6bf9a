import { useEffect, useState } from "react";
import styled from "styled-components";
import { type Dim, Num } from "./layout";

/** There for screen readers alone. */
export const Unseen = styled.span`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
  white-space: nowrap;
`;

/** What has to stay for so long before it is told, in ms: while a bound is dragged or a run plays it changes all the time. */
const REST_MS = 1000;

/** What a value is once it has stayed the same for a while. */
export function useRested<T>(value: T): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), REST_MS);
    return () => clearTimeout(timer);
  }, [value]);
  return rested;
}

/**
 * A result that changes as one works: seen at once, told to screen readers once it rests.
 */
export function Status(props: {
  label: string;
  as?: typeof Dim;
  style?: React.CSSProperties;
  className?: string;
  children: string;
}) {
  const { label, as: Face = Num, children, ...look } = props;
  return (
    <>
      <Face {...look} role="status" aria-live="off" aria-label={label}>
        {children}
      </Face>
      <Told label={label} text={children} />
    </>
  );
}

/** Tells screen readers of a text once it rests. */
export function Told({ label, text }: { label: string; text: string }) {
  const rested = useRested(text);
  return <Unseen aria-live="polite">{rested === "" ? "" : `${label}: ${rested}`}</Unseen>;
}
