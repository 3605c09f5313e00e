import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { URGENT, WORDS } from "../../flight/calling";
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
  const urgent = call !== undefined && URGENT.has(call);
  const sudden = (readings.at(-2)?.charge_pct ?? 0) - (readings.at(-1)?.charge_pct ?? 0) > 16;
  const reasons = [
    ...(sudden ? ["a failing cell, come down gently"] : []),
    ...lookAt.map((key) => REASONS[key]!),
    "something dragging",
  ];
  return (
    <Box
      role="alert"
      sx={{
        minHeight: 92,
        borderRadius: "14px",
        px: 2,
        py: 1,
        mb: 1.25,
        display: "flex",
        flexDirection: "column",
        justifyContent: "center",
        border: 2,
        borderColor: call ? "transparent" : "divider",
        bgcolor: call === undefined ? "transparent" : urgent ? "var(--stay)" : "var(--care)",
        color: call === undefined ? "text.primary" : "var(--onVerdict)",
      }}
    >
      <Typography sx={{ fontSize: "1.9rem", fontWeight: 850, lineHeight: 1.05 }}>
        {call ? `${urgent ? "◆ " : "● "}${WORDS[call].large}` : turned ? "Coming home" : "Outbound"}
      </Typography>
      <Typography>
        {call === "fast"
          ? `Possible causes: ${reasons.join("; ")}.`
          : call
            ? WORDS[call].small
            : turned
              ? "Watch the aircraft, not the screen."
              : "Alerts will sound. Watch the aircraft, not the screen."}
      </Typography>
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
    </Box>
  );
}
