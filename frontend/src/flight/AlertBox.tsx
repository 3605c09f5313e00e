import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import type { AlertTone } from "./calling";

/** What must be read at arm's length: one thing, large; a line more; what belongs to it. Empty of a tone it is quiet. */
export function AlertBox({
  tone,
  large,
  small,
  label,
  role = "alert",
  compact = false,
  children,
}: {
  tone: AlertTone | null;
  large: string;
  small: string;
  label?: string;
  role?: "alert" | "log";
  /** For a screen on which much else has to stand. */
  compact?: boolean;
  children?: ReactNode;
}) {
  return (
    <Box
      role={role}
      aria-label={label}
      sx={{
        minHeight: compact ? { xs: 68, md: 92 } : 92,
        borderRadius: "14px",
        px: 2,
        py: 1,
        my: compact ? 0.5 : 1.25,
        display: "flex",
        flexDirection: "column",
        justifyContent: "center",
        border: 2,
        borderColor: tone ? "transparent" : "divider",
        bgcolor: tone ? `var(--${tone})` : "transparent",
        color: tone ? "var(--onVerdict)" : "text.primary",
      }}
    >
      <Typography
        sx={{
          fontSize: compact ? { xs: "1.2rem", md: "1.5rem" } : "1.9rem",
          fontWeight: 850,
          lineHeight: 1.08,
        }}
      >
        {large}
      </Typography>
      <Typography>{small}</Typography>
      {children}
    </Box>
  );
}
