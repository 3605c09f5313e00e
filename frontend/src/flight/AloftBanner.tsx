import Box from "@mui/material/Box";
import { useEffect, useSyncExternalStore } from "react";
import { Link, useLocation } from "react-router";
import { anyAloft, goOn, watchAloft } from "./aloft";
import { WORDS } from "./calling";

/** On every page but the clock's own: something is in the air, what is called, and the way back to it. */
export function AloftBanner() {
  const { pathname } = useLocation();
  useEffect(goOn, []);
  const aloft = useSyncExternalStore(watchAloft, anyAloft);
  if (!aloft) return null;
  const to = `/sessions/${aloft.record.session}/flight`;
  if (pathname === to) return null;
  const call = aloft.record.calling.at(-1);
  const seconds = Math.floor(aloft.at_s);
  const time = `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
  return (
    <Box
      component={Link}
      to={to}
      role="alert"
      aria-label="In the air"
      className="no-print"
      sx={{
        position: "fixed",
        left: { xs: 8, md: 172 },
        right: { xs: 8, md: 16 },
        bottom: { xs: 68, md: 12 },
        zIndex: 1400,
        minHeight: 56,
        display: "flex",
        alignItems: "center",
        gap: 1.5,
        px: 2,
        borderRadius: "14px",
        textDecoration: "none",
        fontWeight: 800,
        fontSize: "1.1rem",
        bgcolor: call ? "var(--stay)" : "var(--strong)",
        color: call ? "var(--onVerdict)" : "var(--onStrong)",
      }}
    >
      <span>{call ? WORDS[call].large : "In the air"}</span>
      <span style={{ fontVariantNumeric: "tabular-nums" }}>{time}</span>
      <span style={{ marginLeft: "auto" }}>Back to the clock</span>
    </Box>
  );
}
