import type { Status, Verdict } from "../api/client";

export const VERDICT_WORDS: Record<Verdict, string> = {
  launch: "Within limits",
  care: "Caution",
  stay: "Don’t launch",
  unknown: "Not enough data",
};

export const STATUS_WORDS: Record<Status, string> = {
  pass: "within limits",
  care: "caution",
  fail: "outside its limit",
  unknown: "unknown",
};

export const VERDICT_OF: Record<Status, Verdict> = {
  pass: "launch",
  care: "care",
  fail: "stay",
  unknown: "unknown",
};

export function tone(verdict: Verdict): string {
  return `var(--${verdict})`;
}

const OPEN =
  "M4 13C8 7.5 12.5 7 16 11.5C19.5 7 24 7.5 28 13C24 11 19.5 12 16 19C12.5 12 8 11 4 13Z";
const HALF =
  "M6 17C9.5 11 13 10.5 16 14.5C19.5 9.5 23 12 25 18C21.5 15.5 19 16.5 16 22C13.5 17 10 15.5 6 17Z";
const PERCHED = "M9 21C11 14 16 10 22 11L25 12.5L22 14C21.5 18.5 18 21 14 21L12 24H10.5L11.5 21Z";

/** The verdict's own shape: wings open in a hexagon, half open in a diamond, perched in a square, a broken ring. */
export function VerdictMark({
  verdict,
  size = 40,
  inverted = false,
}: {
  verdict: Verdict;
  size?: number;
  inverted?: boolean;
}) {
  const body = inverted ? "var(--onVerdict)" : tone(verdict);
  const bird = inverted ? tone(verdict) : "var(--onVerdict)";
  return (
    <svg width={size} height={size} viewBox="0 0 32 32" aria-hidden focusable="false">
      {verdict === "launch" && (
        <>
          <path d="M8.5 3H23.5L31 16L23.5 29H8.5L1 16Z" fill={body} />
          <path d={OPEN} transform="translate(0 3)" fill={bird} />
        </>
      )}
      {verdict === "care" && (
        <>
          <path d="M16 0L32 16L16 32L0 16Z" fill={body} />
          <path d={HALF} transform="translate(3.2 2.6) scale(.8)" fill={bird} />
        </>
      )}
      {verdict === "stay" && (
        <>
          <rect x="2" y="2" width="28" height="28" rx="2" fill={body} />
          <path d={PERCHED} fill={bird} />
        </>
      )}
      {verdict === "unknown" && (
        <circle
          cx="16"
          cy="16"
          r="12.5"
          fill="none"
          stroke={body}
          strokeWidth="5"
          strokeDasharray="18 8.18"
          transform="rotate(-50 16 16)"
        />
      )}
    </svg>
  );
}

/** The sign of Lark. */
export function LarkSign({ width = 44 }: { width?: number }) {
  return (
    <svg width={width} height={width / 2} viewBox="0 0 48 24" aria-hidden focusable="false">
      <path
        fill="var(--care)"
        d="M0 17C8 5 17 3 24 11C31 3 40 5 48 17C40 11 31 12 24 20C17 12 8 11 0 17Z"
      />
    </svg>
  );
}
