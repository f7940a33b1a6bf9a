import type { ComponentProps, ReactNode } from "react";
import { NumberField } from "./NumberField";

/** A number within a line of words: what it is before it, its unit behind it. */
export function Measure({
  text,
  unit,
  ...field
}: ComponentProps<typeof NumberField> & { text: ReactNode; unit: string }) {
  return (
    <>
      <span>{text}</span>
      <NumberField {...field} /> {unit}
    </>
  );
}
