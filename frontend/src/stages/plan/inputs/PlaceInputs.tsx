import AddIcon from "@mui/icons-material/Add";
import DeleteIcon from "@mui/icons-material/DeleteOutlined";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Typography from "@mui/material/Typography";
import type { Plan } from "../../../api/client";
import { usePlaces } from "../../../api/places";
import { Choice, Group, Toggle, Words } from "../../../inputs/fields";
import { QuantityInput } from "../../../inputs/QuantityInput";
import { NOISE, OBSTACLES, SURROUNDINGS } from "../names";
import { ContextInputs } from "./ContextInputs";
import type { InputProps } from "./props";

type Site = Plan["site"];
type Obstacle = Site["obstacles"][number];

export function PlaceInputs({ plan, change }: InputProps) {
  const { site } = plan;
  const obstacles = site.obstacles;
  const set =
    <K extends keyof Site>(key: K) =>
    (v: Site[K]) =>
      change(["site", key], v);
  const count = `${obstacles.length} ${obstacles.length === 1 ? "obstacle" : "obstacles"}`;
  return (
    <Group title="Place" summary={`${site.name ?? "unnamed"}, ${count}`}>
      <Words
        label="Name of the place"
        value={site.name ?? ""}
        onChange={(v) => set("name")(v || null)}
      />
      <DrawnPlace plan={plan} change={change} />
      <Choice
        label="Ground around"
        value={site.surroundings}
        options={SURROUNDINGS}
        onChange={set("surroundings")}
      />
      <Choice
        label="Radio interference"
        value={site.radio_noise}
        options={NOISE}
        onChange={set("radio_noise")}
      />
      <ContextInputs plan={plan} change={change} />
      <Toggle label="Wind measured in shelter" value={site.sheltered} onChange={set("sheltered")} />
      <Coordinate label="Latitude" value={site.latitude} most={90} onChange={set("latitude")} />
      <Coordinate label="Longitude" value={site.longitude} most={180} onChange={set("longitude")} />
      <QuantityInput
        label="Above sea level"
        quantity="length"
        value={site.elevation_m}
        min={-500}
        max={9000}
        slider={false}
        onChange={set("elevation_m")}
      />
      <Typography component="h3" sx={{ fontWeight: 700, mt: 1 }}>
        Obstacles
      </Typography>
      {obstacles.length === 0 && (
        <Typography variant="body2" color="text.secondary">
          {site.place == null
            ? "Nothing noted yet. Add the trees, wires, masts and buildings that the way home may cross."
            : "None besides those drawn on the place."}
        </Typography>
      )}
      {obstacles.map((o, i) => (
        <ObstacleInputs
          key={i}
          obstacle={o}
          number={i + 1}
          change={(key, value) => change(["site", "obstacles", i, key], value)}
          remove={() =>
            change(
              ["site", "obstacles"],
              obstacles.filter((_, at) => at !== i),
            )
          }
        />
      ))}
      <Button
        startIcon={<AddIcon />}
        onClick={() =>
          change(
            ["site", "obstacles"],
            [
              ...obstacles,
              {
                kind: "trees",
                height_m: 15,
                distance_m: 50,
                bearing_deg: plan.flight.bearing_deg,
                depth_m: 10,
                known: "typed",
              },
            ],
          )
        }
      >
        Add an obstacle
      </Button>
    </Group>
  );
}

/** Which drawn place the session is at: its first take-off point is then the session's. */
function DrawnPlace({ plan, change }: Pick<InputProps, "plan" | "change">) {
  const places = usePlaces();
  const known = places.data ?? [];
  const options: Record<string, string> = { none: "Not drawn" };
  for (const p of known) options[String(p.id)] = p.name;
  const now = plan.site.place == null ? "none" : String(plan.site.place);
  if (!(now in options)) options[now] = "A deleted place";
  return (
    <Choice
      label="Drawn place"
      value={now}
      options={options}
      onChange={(v) => {
        const chosen = known.find((p) => String(p.id) === v);
        change(
          ["site"],
          chosen
            ? {
                ...plan.site,
                place: chosen.id,
                name: chosen.name,
                latitude: chosen.latitude ?? plan.site.latitude,
                longitude: chosen.longitude ?? plan.site.longitude,
              }
            : { ...plan.site, place: null },
        );
      }}
    />
  );
}

function Coordinate({
  label,
  value,
  most,
  onChange,
}: {
  label: string;
  value: number;
  most: number;
  onChange: (value: number) => void;
}) {
  return (
    <QuantityInput
      label={label}
      quantity="angle"
      digits={5}
      value={value}
      min={-most}
      max={most}
      slider={false}
      onChange={onChange}
    />
  );
}

function ObstacleInputs({
  obstacle,
  number,
  change,
  remove,
}: {
  obstacle: Obstacle;
  number: number;
  change: <K extends keyof Obstacle>(key: K, value: Obstacle[K]) => void;
  remove: () => void;
}) {
  const name = `${OBSTACLES[obstacle.kind]} ${number}`;
  const number_ = { slider: false, min: 0 } as const;
  return (
    <Box
      role="group"
      aria-label={name}
      sx={{ border: 1, borderColor: "divider", borderRadius: 2, p: 1, my: 1 }}
    >
      <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
        <Choice
          label="What"
          value={obstacle.kind}
          options={OBSTACLES}
          onChange={(v) => change("kind", v)}
        />
        <IconButton aria-label={`Remove ${name}`} onClick={remove}>
          <DeleteIcon />
        </IconButton>
      </Box>
      <QuantityInput
        {...number_}
        label="Height above take-off"
        quantity="length"
        value={obstacle.height_m}
        max={1000}
        onChange={(v) => change("height_m", v)}
      />
      <QuantityInput
        {...number_}
        label="How far"
        quantity="length"
        value={obstacle.distance_m}
        max={20_000}
        onChange={(v) => change("distance_m", v)}
      />
      <QuantityInput
        {...number_}
        label="Bearing"
        quantity="angle"
        value={obstacle.bearing_deg}
        max={360}
        onChange={(v) => change("bearing_deg", v)}
      />
      {obstacle.kind === "trees" && (
        <QuantityInput
          {...number_}
          label="Depth"
          hint="0 is a row of trees"
          quantity="length"
          value={obstacle.depth_m}
          max={20_000}
          onChange={(v) => change("depth_m", v)}
        />
      )}
    </Box>
  );
}
