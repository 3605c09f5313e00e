import AddIcon from "@mui/icons-material/Add";
import DeleteIcon from "@mui/icons-material/DeleteOutlined";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Typography from "@mui/material/Typography";
import type { Outing, Plan, Shot } from "../../api/client";
import { usePlace } from "../../api/places";
import { useUnits } from "../../shell/preferences";
import { Choice, Group, Words } from "../../inputs/fields";
import { QuantityInput } from "../../inputs/QuantityInput";
import { bearing, written } from "../../units/units";
import { placed, whereIs } from "./outing";
import type { PutOuting, SetOuting } from "./props";

const LIGHTS = {
  any: "any light",
  front: "sun behind the camera",
  side: "light from the side",
  back: "backlit",
  golden: "golden hour",
} as const;

const MOST = 10;

/** What is to be filmed: where, how high, how long, in which light. */
export function Subjects({
  plan,
  outing,
  set,
  put,
}: {
  plan: Plan;
  outing: Outing;
  set: SetOuting;
  put: PutOuting;
}) {
  const units = useUnits();
  const place = usePlace(plan.site.place, true);
  const { shots } = outing;
  const drawn = (place.data?.place.features ?? []).filter(
    (f) => f.role === "subject" && !shots.some((s) => s.name === f.name),
  );
  const add = (shot: Shot) => put({ shots: [...shots, shot], flights: null });
  const fresh = (name: string, latitude: number, longitude: number): Shot => ({
    name,
    latitude,
    longitude,
    height_m: plan.flight.height_m,
    minutes: 4,
    light: "any",
  });
  const ahead = () => {
    const shot = fresh(`Subject ${shots.length + 1}`, plan.site.latitude, plan.site.longitude);
    add(placed(plan, shot, plan.flight.bearing_deg, Math.max(plan.flight.distance_m, 20)));
  };
  return (
    <Box className="no-print" component="section" aria-label="Subjects" sx={{ mt: 1.5 }}>
      <Typography variant="h3">Subjects</Typography>
      {shots.map((shot, i) => {
        const { bearing: towards, distance } = whereIs(plan, shot);
        const change = (changed: Partial<Shot>) =>
          set(
            "shots",
            shots.map((s, n) => (n === i ? { ...s, ...changed } : s)),
          );
        return (
          <Group
            key={i}
            title={shot.name}
            summary={`${written(distance, "length", units)} towards ${bearing(towards)}, ${shot.minutes} min, ${LIGHTS[shot.light]}`}
          >
            <Words
              label="Name"
              value={shot.name}
              required="Give it a name."
              onChange={(name) => change({ name })}
            />
            <QuantityInput
              label="Height"
              quantity="length"
              min={0}
              max={120}
              most={1000}
              value={shot.height_m}
              onChange={(height_m) => change({ height_m })}
            />
            <QuantityInput
              label="Time there"
              quantity="minutes"
              digits={1}
              step={0.5}
              min={0.5}
              max={20}
              most={60}
              value={shot.minutes}
              onChange={(minutes) => change({ minutes })}
            />
            <Choice
              label="Light wanted"
              value={shot.light}
              options={LIGHTS}
              onChange={(light) => change({ light })}
            />
            <QuantityInput
              label="Distance"
              quantity="length"
              min={0}
              max={1000}
              most={20_000}
              value={distance}
              onChange={(v) => change(placed(plan, shot, towards, v))}
            />
            <QuantityInput
              label="Bearing"
              quantity="angle"
              min={0}
              max={360}
              value={Math.round(towards * 10) / 10}
              onChange={(v) => change(placed(plan, shot, v, Math.max(distance, 1)))}
            />
            <IconButton
              aria-label={`Remove ${shot.name}`}
              onClick={() => put({ shots: shots.filter((_, n) => n !== i), flights: null })}
            >
              <DeleteIcon />
            </IconButton>
          </Group>
        );
      })}
      {shots.length < MOST ? (
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
          {drawn.slice(0, MOST - shots.length).map((f) => (
            <Button
              key={f.id}
              size="small"
              startIcon={<AddIcon />}
              onClick={() => {
                const [lon, lat] = f.coordinates[0] as [number, number];
                add(fresh(f.name || "Subject", lat, lon));
              }}
            >
              {f.name || "Subject"}
            </Button>
          ))}
          <Button size="small" startIcon={<AddIcon />} onClick={ahead}>
            Another subject
          </Button>
        </Box>
      ) : (
        <Typography variant="body2" color="text.secondary">
          Ten subjects is the most Lark can plan for.
        </Typography>
      )}
    </Box>
  );
}
