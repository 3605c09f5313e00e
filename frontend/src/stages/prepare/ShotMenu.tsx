import MoreIcon from "@mui/icons-material/MoreHoriz";
import IconButton from "@mui/material/IconButton";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { useState } from "react";
import type { Ready } from "../../api/client";
import { alone, dropped, moved, shifted, type HandFlight } from "./outing";

/** Where else a subject can go: earlier, later, into another flight, onto a pack of its own, out. */
export function ShotMenu({
  shot,
  name,
  flights,
  packs,
  change,
}: {
  shot: number;
  name: string;
  flights: HandFlight[];
  packs: Ready["packs"];
  change: (flights: HandFlight[]) => void;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const at = flights.findIndex((f) => f.shots.includes(shot));
  const place = at < 0 ? -1 : flights[at]!.shots.indexOf(shot);
  const free = packs.find((p) => !flights.some((f) => f.pack === p.id));
  const choices: { words: string; make: () => HandFlight[] }[] = [];
  if (at >= 0 && place > 0)
    choices.push({ words: "Earlier", make: () => shifted(flights, at, place, -1) });
  if (at >= 0 && place < flights[at]!.shots.length - 1)
    choices.push({ words: "Later", make: () => shifted(flights, at, place, 1) });
  flights.forEach((f, i) => {
    if (i !== at)
      choices.push({
        words: `Into flight ${i + 1}, battery ${packs.find((p) => p.id === f.pack)?.label ?? "?"}`,
        make: () => moved(flights, shot, i),
      });
  });
  if (free && !(at >= 0 && flights[at]!.shots.length === 1))
    choices.push({
      words: `A flight of its own, battery ${free.label}`,
      make: () => alone(flights, shot, free.id),
    });
  if (at >= 0) choices.push({ words: "Don’t film", make: () => dropped(flights, shot) });
  return (
    <>
      <IconButton
        className="no-print"
        aria-label={`Move ${name}`}
        size="small"
        sx={{ minHeight: 48, my: -1 }}
        onClick={(e) => setAnchor(e.currentTarget)}
      >
        <MoreIcon />
      </IconButton>
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        transitionDuration={0}
        onClose={() => setAnchor(null)}
      >
        {choices.map((c) => (
          <MenuItem
            key={c.words}
            onClick={() => {
              setAnchor(null);
              change(c.make());
            }}
          >
            {c.words}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
