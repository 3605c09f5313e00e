import Box from "@mui/material/Box";
import Drawer from "@mui/material/Drawer";
import type { ReactNode } from "react";
import { NavLink } from "react-router";
import { linkStyle, ROOMS } from "./rooms";

/** All the rooms, and the choices that hold everywhere. */
export function PhoneMenu({
  open,
  close,
  choices,
}: {
  open: boolean;
  close: () => void;
  choices: ReactNode;
}) {
  return (
    <Drawer anchor="right" open={open} onClose={close}>
      <Box component="nav" aria-label="Lark" sx={{ width: 260, p: 2 }} onClick={close}>
        {ROOMS.map((room) => (
          <Box
            key={room.to}
            component={NavLink}
            // In place of the entry by which Back closes the menu: one step back is the page before.
            replace
            to={room.to}
            end={room.end}
            sx={linkStyle}
          >
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
  );
}
