import { EntryField } from "./EntryField";
import { typedNumber } from "./typed";

/** A number in a range, typed or stepped with the arrow keys; `by` is the step. */
export function NumberField(props: {
  label: string;
  value: number;
  low: number;
  high: number;
  by?: number;
  width?: number;
  onChange: (value: number) => void;
}) {
  const { label, value, low, high, by = 1, width = 58, onChange } = props;
  const tidy = (x: number) => Math.round(Math.max(low, Math.min(high, x)) * 1e6) / 1e6;
  return (
    <EntryField
      mono
      width={width}
      label={label}
      text={String(tidy(value))}
      take={(text) => {
        const typed = typedNumber(text);
        if (text.trim() === "" || !(typed >= low && typed <= high)) return `${label}: a number from ${low} to ${high}.`;
        onChange(typed);
        return undefined;
      }}
      step={(d, n) => onChange(tidy(value + d * n * by))}
    />
  );
}
