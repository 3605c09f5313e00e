import AddIcon from "@mui/icons-material/Add";
import DeleteIcon from "@mui/icons-material/DeleteOutlined";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Move, Place, Plan, Result, Survey } from "../../../api/client";
import type { Change } from "../../../editing/change";
import { useUnits } from "../../../shell/preferences";
import { Choice } from "../../../inputs/fields";
import { QuantityInput } from "../../../inputs/QuantityInput";
import { destination } from "../../../map/local";
import { nameOf } from "../../../map/roles";
import { written } from "../../../units/units";

const KINDS: Record<Move["kind"], string> = {
  orbit: "Orbit",
  pull_away: "Pull-away",
  rise: "Rise",
  straight: "Straight run",
  top_down: "Top-down",
};

/** Which sizes a kind of move has. */
const SIZES: Record<Move["kind"], ("size_m" | "length_m" | "climb_m" | "bearing_deg" | "turns")[]> =
  {
    orbit: ["size_m", "turns", "climb_m"],
    pull_away: ["bearing_deg", "size_m", "length_m", "climb_m"],
    rise: ["bearing_deg", "size_m", "climb_m"],
    straight: ["bearing_deg", "length_m", "climb_m"],
    top_down: ["climb_m"],
  };

function fresh(kind: Move["kind"], plan: Plan, at: { lat: number; lon: number }): Move {
  return {
    kind,
    name: "",
    latitude: at.lat,
    longitude: at.lon,
    height_m: plan.flight.height_m,
    size_m: 25,
    climb_m: kind === "pull_away" || kind === "rise" || kind === "top_down" ? 20 : 0,
    length_m: kind === "straight" || kind === "pull_away" ? 60 : 0,
    bearing_deg: Math.round((plan.flight.bearing_deg + 180) % 360),
    turns: 1,
    speed_ms: 4,
  };
}

/** Automatic shots, checked as the whole shape they sweep before anybody presses the button. */
export function Moves({
  plan,
  place,
  survey,
  result,
  change,
}: {
  plan: Plan;
  place: Place;
  survey: Survey | undefined;
  result: Result;
  change: Change<Plan>;
}) {
  const units = useUnits();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const { moves } = plan.flight;
  const set = (next: Move[]) => change(["flight", "moves"], next);
  const subjects = place.features.filter((f) => f.role === "subject");
  const here = { lat: plan.site.latitude, lon: plan.site.longitude };
  const farEnd = destination(here, plan.flight.bearing_deg, plan.flight.distance_m);
  const targets: Record<string, string> = { far: "The far point" };
  for (const s of subjects) targets[s.id] = nameOf(s);
  const targetOf = (m: Move) =>
    subjects.find(
      (s) =>
        Math.abs(s.coordinates[0]![1]! - m.latitude) < 1e-6 &&
        Math.abs(s.coordinates[0]![0]! - m.longitude) < 1e-6,
    )?.id ?? "far";
  const check = result.checks.find((c) => c.id === "land.moves");
  return (
    <Box component="section" aria-label="Camera moves" sx={{ mt: 1 }}>
      <Box sx={{ display: "flex", alignItems: "center" }}>
        <Typography component="h3" sx={{ fontWeight: 700, flex: 1 }}>
          Camera moves
        </Typography>
        <Button
          size="small"
          startIcon={<AddIcon />}
          aria-haspopup="menu"
          onClick={(e) => setMenu(e.currentTarget)}
        >
          Plan a move
        </Button>
      </Box>
      <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)}>
        {(Object.keys(KINDS) as Move["kind"][]).map((kind) => (
          <MenuItem
            key={kind}
            onClick={() => {
              setMenu(null);
              const s = subjects[0];
              const at = s ? { lat: s.coordinates[0]![1]!, lon: s.coordinates[0]![0]! } : farEnd;
              set([...moves, fresh(kind, plan, at)]);
            }}
          >
            {KINDS[kind]}
          </MenuItem>
        ))}
      </Menu>
      {check && moves.length > 0 && (
        <Typography
          sx={{ fontWeight: 700, color: check.status === "fail" ? "error.main" : "text.primary" }}
        >
          {check.sentence}
        </Typography>
      )}
      {moves.map((m, i) => {
        const swept = survey?.moves[i];
        const put = (part: Partial<Move>) =>
          set(moves.map((x, j) => (j === i ? { ...x, ...part } : x)));
        return (
          <Box
            key={i}
            role="group"
            aria-label={`${KINDS[m.kind]} ${i + 1}`}
            sx={{ border: 1, borderColor: "divider", borderRadius: 2, p: 1, my: 1 }}
          >
            <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
              <Choice
                label={KINDS[m.kind]}
                value={targetOf(m)}
                options={targets}
                onChange={(id) => {
                  const s = subjects.find((x) => x.id === id);
                  put(
                    s
                      ? { latitude: s.coordinates[0]![1]!, longitude: s.coordinates[0]![0]! }
                      : { latitude: farEnd.lat, longitude: farEnd.lon },
                  );
                }}
              />
              <IconButton
                aria-label={`Remove ${KINDS[m.kind]} ${i + 1}`}
                onClick={() => set(moves.filter((_, j) => j !== i))}
              >
                <DeleteIcon />
              </IconButton>
            </Box>
            <Box sx={{ display: "grid", gridTemplateColumns: { md: "1fr 1fr" }, columnGap: 2 }}>
              <QuantityInput
                label="Begins at"
                quantity="length"
                value={m.height_m}
                min={2}
                max={120}
                most={1000}
                onChange={(v) => put({ height_m: v })}
              />
              {SIZES[m.kind].map((key) => (
                <QuantityInput
                  key={key}
                  label={
                    {
                      size_m: m.kind === "orbit" ? "Radius" : "Starting distance",
                      length_m: "Length",
                      climb_m: "Climbs",
                      bearing_deg: m.kind === "rise" ? "On the side towards" : "Towards",
                      turns: "Turns",
                    }[key]
                  }
                  quantity={key === "bearing_deg" ? "angle" : key === "turns" ? "count" : "length"}
                  value={m[key]}
                  min={key === "turns" ? 1 : 0}
                  max={key === "bearing_deg" ? 359 : key === "turns" ? 4 : 120}
                  most={key === "bearing_deg" ? 360 : key === "turns" ? 10 : 500}
                  onChange={(v) => put({ [key]: v })}
                />
              ))}
              <QuantityInput
                label="Speed"
                quantity="speed"
                value={m.speed_ms}
                min={0.5}
                max={12}
                most={20}
                onChange={(v) => put({ speed_ms: v })}
              />
            </Box>
            {swept && (
              <Typography variant="body2" color="text.secondary">
                {Math.round(swept.seconds)} s and {swept.share_pct.toFixed(1)}% of charge, from{" "}
                {written(swept.lowest_m, "length", units)} to{" "}
                {written(swept.highest_m, "length", units)} high
                {swept.gap_m != null &&
                  (swept.gap_m < 0
                    ? `; goes into ${swept.meets}`
                    : `; clears ${swept.meets} by ${written(swept.gap_m, "length", units)} or more`)}
                .
              </Typography>
            )}
          </Box>
        );
      })}
    </Box>
  );
}
