import Typography from "@mui/material/Typography";
import { AlertBox } from "../../flight/AlertBox";
import { largeOf, toneOf, WORDS } from "../../flight/calling";
import { useHeadset } from "../../flight/useHeadset";
import { HoldButton } from "../../shell/HoldButton";
import type { Call, Reading } from "../../flight/clock";

const REASONS: Record<string, string> = {
  cold: "cold, the voltage sags",
  windy: "the wind, come lower",
  fast_mode: "fast mode, slow down",
};

/** The most urgent call, in words that are read at arm's length. */
export function CallBanner({
  calls,
  lookAt,
  readings,
  turned,
  heard,
  hear,
}: {
  calls: Call[];
  lookAt: string[];
  readings: Reading[];
  turned: boolean;
  /** Whether the pilot has heard all that holds. */
  heard: boolean;
  hear: () => void;
}) {
  const call = calls.at(-1);
  useHeadset(call && !heard ? hear : null);
  const sudden = (readings.at(-2)?.charge_pct ?? 0) - (readings.at(-1)?.charge_pct ?? 0) > 16;
  const reasons = [
    ...(sudden ? ["a failing cell, come down gently"] : []),
    ...lookAt.map((key) => REASONS[key]!),
    "something dragging",
  ];
  return (
    <AlertBox
      tone={toneOf(call)}
      large={call ? largeOf(call) : turned ? "Coming home" : "Outbound"}
      small={
        call === "fast"
          ? `Possible causes: ${reasons.join("; ")}.`
          : call
            ? WORDS[call].small
            : turned
              ? "Watch the aircraft, not the screen."
              : "Alerts will sound. Watch the aircraft, not the screen."
      }
    >
      {calls.length > 1 && (
        <Typography variant="body2">
          Also:{" "}
          {calls
            .slice(0, -1)
            .map((c) => WORDS[c].large.toLowerCase())
            .join(", ")}
        </Typography>
      )}
      {call && !heard && (
        <HoldButton
          done={hear}
          variant="outlined"
          color="inherit"
          sx={{ minHeight: 56, mt: 1, fontSize: "1.1rem" }}
        >
          Heard: hold to silence
        </HoldButton>
      )}
      {call && heard && (
        <Typography variant="body2">Silenced for up to a minute. It still holds.</Typography>
      )}
    </AlertBox>
  );
}
