import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Snackbar from "@mui/material/Snackbar";
import { lazy, Suspense, useEffect, useRef, useState } from "react";
import { NavLink, Outlet, ScrollRestoration, useLocation, useParams } from "react-router";
import { unitName } from "../units/units";
import { Brand } from "./Brand";
import { BottomBar, PhoneBar } from "./PhoneBars";
import { usePreferences } from "./preferences";
import { awayNow, UNITS_STAY } from "../along/away";
import { AwayBar, BackAgain } from "../along/AwayBar";
import { useComingBack, useTakingAlong } from "../along/useTakingAlong";
import { AloftBanner } from "../flight/AloftBanner";
import { Emergencies } from "../flight/Emergencies";
import { useForecastNews } from "../forecasts/useForecastNews";
import { useOutbox } from "../flight/useOutbox";
import { useSendingDecided } from "../outbox/decided";
import { useSendingPhotos } from "../photos/sending";
import { useSendingWords } from "../outbox/useSaying";
import { StagePath } from "./StagePath";
import { useSavedNews } from "./useSavedNews";
import { useShortcuts } from "./useShortcuts";
import { linkStyle, ROOMS } from "./rooms";
import { useWide } from "./useWide";

/** What opens at a touch comes after what is looked at. */
const LeaveDialog = lazy(() => import("./LeaveDialog").then((m) => ({ default: m.LeaveDialog })));
const ShortcutsDialog = lazy(() =>
  import("./ShortcutsDialog").then((m) => ({ default: m.ShortcutsDialog })),
);
const UnitsDialog = lazy(() => import("./UnitsDialog").then((m) => ({ default: m.UnitsDialog })));

/** The frame of every screen: the session's path and the other rooms beside it. */
export function Frame() {
  const { units, nextUnits, theme, toggleTheme, fieldMode, toggleFieldMode } = usePreferences();
  const { sessionId } = useParams();
  const wide = useWide();
  const { pathname } = useLocation();
  const opened = useRef(pathname);
  useEffect(() => {
    // What the server said of the page that was opened first is not about another one.
    if (pathname !== opened.current) document.getElementById("saved")?.remove();
  }, [pathname]);
  const [dialog, setDialog] = useState<"shortcuts" | "units" | null>(null);
  const [leaving, setLeaving] = useState<{ why: string; go: () => void } | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  // Whatever page is open, what flights and lists left on this device goes up.
  useOutbox();
  useSendingWords();
  useSendingDecided();
  useSendingPhotos();
  useSavedNews();
  useForecastNews();
  useTakingAlong();
  useComingBack();

  const names = (u = units) =>
    (["speed", "length", "temperature"] as const).map((q) => unitName(q, u)).join(", ");

  useShortcuts({
    units: () => setSaid(awayNow() ? UNITS_STAY : `Units: ${names(nextUnits())}`),
    theme: toggleTheme,
    help: () => setDialog("shortcuts"),
    leaving: (why, go) => setLeaving({ why, go }),
  });

  const choices = (
    <>
      <Button size="small" onClick={() => setDialog("units")} aria-label={`Units: ${names()}`}>
        {names()}
      </Button>
      <Button size="small" onClick={toggleTheme}>
        {theme === "dusk" ? "Light mode" : "Dark mode"}
      </Button>
      <Button size="small" aria-pressed={fieldMode} onClick={toggleFieldMode}>
        {fieldMode ? "Leave field mode" : "Field mode"}
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
        <PhoneBar sessionId={sessionId} choices={choices} />
      )}
      <Box
        component="main"
        id="main"
        tabIndex={-1}
        sx={{ flex: 1, minWidth: 0, overflowX: "clip", pb: { xs: 9, md: 0 }, outline: "none" }}
      >
        <AwayBar />
        <BackAgain />
        <Outlet />
        <ScrollRestoration />
      </Box>
      {!wide && <BottomBar sessionId={sessionId} />}
      <Suspense fallback={null}>
        {dialog === "shortcuts" && <ShortcutsDialog onClose={() => setDialog(null)} />}
        {leaving && <LeaveDialog {...leaving} stay={() => setLeaving(null)} />}
        {dialog === "units" && <UnitsDialog onClose={() => setDialog(null)} />}
      </Suspense>
      <Snackbar
        open={said !== null}
        autoHideDuration={3000}
        onClose={() => setSaid(null)}
        message={said}
      />
    </Box>
  );
}
