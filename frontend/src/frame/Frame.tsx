import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Snackbar from "@mui/material/Snackbar";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useTheme } from "@mui/material/styles";
import { useState } from "react";
import { Link, NavLink, Outlet, useParams } from "react-router";
import { unitName } from "../units/units";
import { LarkSign } from "./marks";
import { usePreferences } from "./preferences";
import { AloftBanner } from "../flying/AloftBanner";
import { Emergencies } from "../flying/Emergencies";
import { useOutbox } from "../flying/useOutbox";
import { useSendingWords } from "../saying/useSaying";
import { ShortcutsDialog } from "./ShortcutsDialog";
import { StagePath } from "./StagePath";
import { UnitsDialog } from "./UnitsDialog";
import { useSavedNews } from "./useSavedNews";
import { useShortcuts } from "./useShortcuts";

const linkStyle = {
  display: "flex",
  alignItems: "center",
  minHeight: 44,
  px: 1,
  mx: -1,
  borderRadius: 2,
  color: "text.primary",
  textDecoration: "none",
  fontWeight: 600,
  "&.active": { fontWeight: 800 },
  "&:hover": { bgcolor: "action.hover" },
} as const;

/** The rooms beside the sessions' path. */
const ROOMS = [
  { to: "/sessions", name: "Sessions", short: "Sessions", end: true },
  { to: "/kit", name: "Gear", short: "Gear", end: false },
  { to: "/places", name: "Places", short: "Places", end: false },
  { to: "/logbook", name: "Logbook", short: "Log", end: false },
  { to: "/minimums", name: "Minimums", short: "Limits", end: false },
  { to: "/help", name: "Help", short: "Help", end: false },
];

/** Of these, what a phone has room for beside an open session. */
const IN_SESSION = ["/sessions", "/help"];

/** The frame of every screen: the session's path and the other rooms beside it. */
export function Frame() {
  const { units, nextUnits, theme, toggleTheme } = usePreferences();
  const { sessionId } = useParams();
  const wide = useMediaQuery(useTheme().breakpoints.up("md"), { noSsr: true });
  const [dialog, setDialog] = useState<"shortcuts" | "units" | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  // Whatever page is open, what flights and lists left on this device goes up.
  useOutbox();
  useSendingWords();
  useSavedNews();

  const names = (u = units) =>
    (["speed", "length", "temperature"] as const).map((q) => unitName(q, u)).join(", ");

  useShortcuts({
    units: () => setSaid(`Units: ${names(nextUnits())}`),
    theme: toggleTheme,
    help: () => setDialog("shortcuts"),
  });

  const choices = (
    <>
      <Button
        size="small"
        onClick={() => setDialog("units")}
        aria-label={`Units: ${wide ? names() : unitName("speed", units)}`}
        sx={{ minWidth: 0 }}
      >
        {wide ? names() : unitName("speed", units)}
      </Button>
      <Button size="small" onClick={toggleTheme} sx={{ minWidth: 0 }}>
        {theme === "dusk" ? (wide ? "Light mode" : "Light") : wide ? "Dark mode" : "Dark"}
      </Button>
    </>
  );

  return (
    <Box sx={{ minHeight: "100vh", display: { md: "flex" } }}>
      <Box
        component="a"
        href="#main"
        sx={{ position: "absolute", left: -9999, "&:focus": { left: 8, top: 8, zIndex: 20 } }}
      >
        Skip to content
      </Box>
      <AloftBanner />
      {wide ? (
        <Box
          component="nav"
          aria-label="Lark"
          sx={{
            width: 156,
            flexShrink: 0,
            height: "100vh",
            position: "sticky",
            top: 0,
            borderRight: 1,
            borderColor: "divider",
            p: 2,
            display: "flex",
            flexDirection: "column",
            overflowY: "auto",
          }}
        >
          <Brand />
          {sessionId && (
            <Box sx={{ mt: 3 }}>
              <StagePath sessionId={sessionId} along={false} />
              <Emergencies sessionId={Number(sessionId)} />
            </Box>
          )}
          <Box sx={{ flex: 1, minHeight: 16 }} />
          {ROOMS.map((room) => (
            <Box key={room.to} component={NavLink} to={room.to} end={room.end} sx={linkStyle}>
              {room.name}
            </Box>
          ))}
          <Box
            sx={{ display: "flex", flexDirection: "column", alignItems: "flex-start", mx: -0.75 }}
          >
            {choices}
          </Box>
        </Box>
      ) : (
        <Box
          component="nav"
          aria-label="Lark"
          sx={{ display: "flex", alignItems: "center", px: 1, gap: 0 }}
        >
          <Brand word={false} />
          <Box sx={{ flex: 1 }} />
          {sessionId && <Emergencies sessionId={Number(sessionId)} />}
          {ROOMS.filter((room) => !sessionId || IN_SESSION.includes(room.to)).map((room) => (
            <Box
              key={room.to}
              component={NavLink}
              to={room.to}
              end={room.end}
              sx={{ ...linkStyle, mx: 0, px: 0.45, fontSize: ".84rem" }}
            >
              {room.short}
            </Box>
          ))}
          {choices}
        </Box>
      )}
      <Box
        component="main"
        id="main"
        tabIndex={-1}
        sx={{ flex: 1, minWidth: 0, pb: { xs: sessionId ? 9 : 2, md: 0 }, outline: "none" }}
      >
        <Outlet />
      </Box>
      {!wide && sessionId && (
        <Box
          component="nav"
          aria-label="Stages"
          sx={{
            position: "fixed",
            bottom: 0,
            left: 0,
            right: 0,
            zIndex: 6,
            display: "flex",
            bgcolor: "background.paper",
            borderTop: 1,
            borderColor: "divider",
            py: 0.75,
          }}
        >
          <StagePath sessionId={sessionId} along />
        </Box>
      )}
      {dialog === "shortcuts" && <ShortcutsDialog onClose={() => setDialog(null)} />}
      {dialog === "units" && <UnitsDialog onClose={() => setDialog(null)} />}
      <Snackbar
        open={said !== null}
        autoHideDuration={3000}
        onClose={() => setSaid(null)}
        message={said}
      />
    </Box>
  );
}

function Brand({ word = true }: { word?: boolean }) {
  return (
    <Box
      component={Link}
      to="/sessions"
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 1,
        minHeight: 48,
        color: "inherit",
        textDecoration: "none",
        fontSize: "1.3rem",
        fontWeight: 800,
      }}
    >
      <LarkSign />
      {word ? (
        " Lark"
      ) : (
        <Box component="span" sx={{ position: "absolute", left: -9999 }}>
          Lark
        </Box>
      )}
    </Box>
  );
}
