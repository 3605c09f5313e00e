import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { lazy, Suspense, useState, type ReactNode } from "react";
import { NavLink } from "react-router";
import { Emergencies } from "../flight/Emergencies";
import { Brand } from "./Brand";
import { useBackCloses } from "./useBackCloses";
import { linkStyle, ROOMS } from "./rooms";
import { StagePath } from "./StagePath";

/** The menu comes when it is opened first. */
const PhoneMenu = lazy(() => import("./PhoneMenu").then((m) => ({ default: m.PhoneMenu })));

/** On top of a phone's screen: home, Emergency in a session, and a menu of all the rooms. */
export function PhoneBar({ sessionId, choices }: { sessionId?: string; choices: ReactNode }) {
  const [open, setOpen] = useState(false);
  const [asked, setAsked] = useState(false);
  const close = () => setOpen(false);
  useBackCloses(open, close);
  return (
    <Box component="header" sx={{ display: "flex", alignItems: "center", px: 1, minHeight: 48 }}>
      <Brand word={false} />
      <Box sx={{ flex: 1 }} />
      {sessionId && <Emergencies sessionId={Number(sessionId)} />}
      <Button
        aria-haspopup="dialog"
        aria-expanded={open}
        onClick={() => {
          setAsked(true);
          setOpen(true);
        }}
        sx={{ minHeight: 48, fontWeight: 700 }}
      >
        Menu
      </Button>
      <Suspense fallback={null}>
        {asked && <PhoneMenu open={open} close={close} choices={choices} />}
      </Suspense>
    </Box>
  );
}

/** At the foot of a phone's screen: the stages of a session, elsewhere the rooms that are used most. */
export function BottomBar({ sessionId }: { sessionId?: string }) {
  return (
    <Box
      component="nav"
      aria-label={sessionId ? "Stages" : "Rooms"}
      sx={{
        position: "fixed",
        bottom: 0,
        left: 0,
        right: 0,
        zIndex: 6,
        display: "flex",
        justifyContent: "space-around",
        bgcolor: "background.paper",
        borderTop: 1,
        borderColor: "divider",
        py: 0.25,
      }}
    >
      {sessionId ? (
        <StagePath sessionId={sessionId} along />
      ) : (
        ROOMS.slice(0, 5).map((room) => (
          <Box
            key={room.to}
            component={NavLink}
            to={room.to}
            end={room.end}
            sx={{ ...linkStyle, mx: 0, fontSize: ".9rem" }}
          >
            {room.name}
          </Box>
        ))
      )}
    </Box>
  );
}
