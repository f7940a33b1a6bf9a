import type { Level } from "@perceptum/core/findings";
import type { Outcome } from "@perceptum/core/world";

/** Good, doubtful and bad by shape, never by hue: open circle, hatched diamond, filled square, open square for "not yet". */
export function Sign({ kind }: { kind: "good" | "doubtful" | "bad" | "open" }) {
  return (
    <svg width="13" height="13" viewBox="-6.5 -6.5 13 13" aria-hidden style={{ flex: "none", marginTop: 2 }}>
      {kind === "good" && <circle r="5" fill="none" stroke="currentColor" strokeWidth="1.5" />}
      {kind === "open" && (
        <rect x="-4.75" y="-4.75" width="9.5" height="9.5" fill="none" stroke="currentColor" strokeDasharray="2 1.5" />
      )}
      {kind === "bad" && <rect x="-5" y="-5" width="10" height="10" fill="currentColor" />}
      {kind === "doubtful" && (
        <g transform="rotate(45)">
          <rect x="-4.2" y="-4.2" width="8.4" height="8.4" fill="none" stroke="currentColor" strokeWidth="1.2" />
          <path d="M-2 -4.2V4.2M0 -4.2V4.2M2 -4.2V4.2" stroke="currentColor" strokeWidth="0.8" />
        </g>
      )}
    </svg>
  );
}

export const SIGN_OF_OUTCOME: Record<Outcome, "good" | "bad" | "open"> = {
  holds: "good",
  "does not": "bad",
  "not reached": "open",
};
export const SIGN_OF_LEVEL: Record<Level, "bad" | "doubtful" | "open"> = {
  error: "bad",
  warning: "doubtful",
  hint: "open",
};
