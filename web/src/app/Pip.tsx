import type { Progress } from "../model/stages";

export const PROGRESS: Record<Progress, string> = {
  empty: "empty",
  begun: "begun",
  ready: "ready",
  findings: "has findings",
};

/** How far a stage is, by shape. */
export function Pip({ progress }: { progress: Progress }) {
  return (
    <svg width="11" height="11" viewBox="-5.5 -5.5 11 11" aria-hidden>
      {progress === "findings" ? (
        <rect
          x="-3.4"
          y="-3.4"
          width="6.8"
          height="6.8"
          transform="rotate(45)"
          fill="none"
          stroke="currentColor"
          strokeWidth="1.5"
        />
      ) : (
        <circle r="4" fill={progress === "ready" ? "currentColor" : "none"} stroke="currentColor" strokeWidth="1.5" />
      )}
      {progress === "begun" && <path d="M0 -4A4 4 0 0 0 0 4Z" fill="currentColor" />}
    </svg>
  );
}
