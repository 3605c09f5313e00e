import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Drawer from "@mui/material/Drawer";
import { useState, type ReactNode } from "react";
import { NavLink } from "react-router";
import { Emergencies } from "../flight/Emergencies";
import { Brand } from "./Brand";
import { useBackCloses } from "./useBackCloses";
import { linkStyle, ROOMS } from "./rooms";
import { StagePath } from "./StagePath";

/** On top of a phone's screen: home, Emergency in a session, and a menu of all the rooms. */
export function PhoneBar({ sessionId, choices }: { sessionId?: string; choices: ReactNode }) {
  const [open, setOpen] = useState(false);
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
        onClick={() => setOpen(true)}
        sx={{ minHeight: 48, fontWeight: 700 }}
      >
        Menu
      </Button>
      <Drawer anchor="right" open={open} onClose={close}>
        <Box component="nav" aria-label="Lark" sx={{ width: 260, p: 2 }} onClick={close}>
          {ROOMS.map((room) => (
            <Box key={room.to} component={NavLink} to={room.to} end={room.end} sx={linkStyle}>
              {room.name}
            </Box>
          ))}
          <Box
            sx={{
              display: "flex",
              flexDirection: "column",
              alignItems: "flex-start",
              mx: -1,
              mt: 1,
              "& .MuiButton-root": { minHeight: 48 },
            }}
          >
            {choices}
          </Box>
        </Box>
      </Drawer>
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
