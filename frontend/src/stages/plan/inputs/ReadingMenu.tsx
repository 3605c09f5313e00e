import AddIcon from "@mui/icons-material/Add";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { useState } from "react";
import type { Plan } from "../../../api/client";
import { LeanDialog } from "./LeanDialog";
import { ReadingDialog } from "./ReadingDialog";
import { SightDialog } from "./SightDialog";

export type Wind = Plan["weather"]["winds"][number];

const HEIGHTS_M = [10, 30, 60, 80, 100, 120];
const HAND_M = 2;

function nextHeight(winds: Wind[]): number {
  const top = Math.max(0, ...winds.filter((w) => w.source === "forecast").map((w) => w.height_m));
  return HEIGHTS_M.find((h) => h > top) ?? Math.min(top + 20, 1000);
}

/** A reading of one's own, from where the last wind came. */
export function readingLike(
  last: Wind,
  height_m: number,
  speed_ms: number,
  method: Wind["method"],
): Wind {
  return {
    height_m,
    speed_ms,
    direction_deg: last.direction_deg,
    gust_ms: null,
    source: method === "hover" ? "hover" : "measured",
    method,
    at: new Date().toISOString(),
  };
}

/** Wind from whatever the pilot has: forecast, hand meter, what is seen, the lean in a hover. */
export function ReadingMenu({ plan, add }: { plan: Plan; add: (wind: Wind) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [dialog, setDialog] = useState<"forecast" | "meter" | "sight" | "lean" | null>(null);
  const { winds } = plan.weather;
  const last = winds.at(-1)!;
  const close = () => setAnchor(null);
  const reading = (height_m: number, speed_ms: number, method: Wind["method"]) =>
    readingLike(last, height_m, speed_ms, method);
  return (
    <>
      <Button
        startIcon={<AddIcon />}
        aria-haspopup="menu"
        onClick={(e) => setAnchor(e.currentTarget)}
      >
        Add a wind
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={close}>
        <MenuItem
          onClick={() => {
            setDialog("forecast");
            close();
          }}
        >
          Forecast at another height
        </MenuItem>
        <MenuItem
          onClick={() => {
            setDialog("meter");
            close();
          }}
        >
          Hand meter
        </MenuItem>
        <MenuItem
          onClick={() => {
            setDialog("sight");
            close();
          }}
        >
          Estimate from trees or water
        </MenuItem>
        <MenuItem
          onClick={() => {
            setDialog("lean");
            close();
          }}
        >
          From its tilt in a hover
        </MenuItem>
      </Menu>
      {dialog === "forecast" && (
        <ReadingDialog
          title="Forecast at another height"
          begins={{
            ...last,
            height_m: nextHeight(winds),
            source: "forecast",
            method: null,
            at: null,
          }}
          take={add}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === "meter" && (
        <ReadingDialog
          title="Hand meter"
          begins={reading(HAND_M, 0, "meter")}
          take={add}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === "sight" && (
        <SightDialog
          take={(ms) => add(reading(10, ms, "beaufort"))}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === "lean" && (
        <LeanDialog
          aircraft={plan.aircraft}
          elevationM={plan.site.elevation_m}
          temperatureC={plan.weather.temperature_c}
          take={(height, ms) => add(reading(height, ms, "hover"))}
          onClose={() => setDialog(null)}
        />
      )}
    </>
  );
}
