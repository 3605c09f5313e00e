import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Plan } from "../../../api/client";
import { today } from "../../../shell/time";
import { Choice, Toggle } from "../../../inputs/fields";
import { QuantityInput } from "../../../inputs/QuantityInput";
import { LANDFORMS, PLATFORMS } from "../names";
import type { InputProps } from "./props";

type Site = Plan["site"];
type Landform = NonNullable<Site["landform"]>;

/** What kind of place it is: what the pilot stands on, water, roof, edge, leaves, and what was looked for by hand. */
export function ContextInputs({ plan, change }: Pick<InputProps, "plan" | "change">) {
  const { site } = plan;
  const { platform } = site;
  const set =
    <K extends keyof Site>(key: K) =>
    (v: Site[K]) =>
      change(["site", key], v);
  const deck = platform.kind !== "ground";
  return (
    <>
      <Choice
        label="Start"
        value={platform.kind}
        options={PLATFORMS}
        onChange={(kind) => set("platform")({ ...platform, kind })}
      />
      {deck && (
        <>
          <QuantityInput
            label={platform.kind === "boat" ? "Boat's speed or drift" : "Car's speed"}
            quantity="speed"
            value={platform.speed_ms}
            min={0}
            max={platform.kind === "boat" ? 10 : 40}
            onChange={(v) => set("platform")({ ...platform, speed_ms: v })}
          />
          <QuantityInput
            label="Towards"
            quantity="angle"
            value={platform.course_deg}
            min={0}
            max={360}
            step={5}
            onChange={(v) => set("platform")({ ...platform, course_deg: v })}
          />
        </>
      )}
      <Toggle label="Over water" value={site.over_water} onChange={set("over_water")} />
      {site.over_water && (
        <QuantityInput
          label="Waves, trough to crest"
          quantity="length"
          digits={1}
          value={site.wave_height_m ?? 0}
          min={0}
          max={5}
          step={0.1}
          onChange={set("wave_height_m")}
        />
      )}
      <Toggle
        label="Indoors"
        value={site.indoors}
        onChange={(indoors) => {
          set("indoors")(indoors);
          if (indoors) change(["settings", "lost_link"], "hover");
        }}
      />
      {!site.indoors && (
        <>
          <Toggle
            label="Trees without leaves"
            value={site.trees_bare}
            onChange={set("trees_bare")}
          />
          <LandformInputs
            landform={site.landform ?? { kind: "flat", height_m: 0, half_length_m: 0 }}
            put={set("landform")}
          />
          <Toggle
            label={
              site.zones_looked_at
                ? `Looked for zones on ${site.zones_looked_at}: none`
                : "I looked for zones: none"
            }
            value={site.zones_looked_at !== null}
            onChange={(on) => set("zones_looked_at")(on ? today() : null)}
          />
          <Toggle
            label={
              site.people_looked_at
                ? `Looked for people on ${site.people_looked_at}: none`
                : "I looked for people: none"
            }
            value={site.people_looked_at !== null}
            onChange={(on) => set("people_looked_at")(on ? today() : null)}
          />
        </>
      )}
    </>
  );
}

function LandformInputs({
  landform,
  put,
}: {
  landform: Landform;
  put: (landform: Landform | null) => void;
}) {
  const flat = landform.kind === "flat";
  return (
    <>
      <Choice
        label="Shape of the ground"
        value={landform.kind}
        options={LANDFORMS}
        onChange={(kind) =>
          put(
            kind === "flat"
              ? null
              : {
                  kind,
                  height_m: landform.height_m || 30,
                  half_length_m: landform.half_length_m || 60,
                },
          )
        }
      />
      {!flat && (
        <Box sx={{ border: 1, borderColor: "divider", borderRadius: 2, p: 1, my: 1 }}>
          <LandformShape kind={landform.kind} />
          <QuantityInput
            label="Height of it"
            quantity="length"
            value={landform.height_m}
            min={1}
            max={500}
            slider={false}
            onChange={(v) => put({ ...landform, height_m: v })}
          />
          <QuantityInput
            label="From the top to half-way down"
            quantity="length"
            value={landform.half_length_m}
            min={1}
            max={5000}
            slider={false}
            onChange={(v) => put({ ...landform, half_length_m: v })}
          />
          <Typography variant="body2" color="text.secondary">
            You stand on top; the wind is faster there than over level ground.
          </Typography>
        </Box>
      )}
    </>
  );
}

const PATHS: Record<Exclude<Landform["kind"], "flat">, string> = {
  ridge: "M0 56 C60 56 70 12 100 12 C130 12 140 56 200 56",
  escarpment: "M0 56 C50 56 64 14 96 14 L200 14",
  hill: "M0 56 C40 56 50 16 100 16 C150 16 160 56 200 56",
};

/** The two lengths that are asked for, on a small cut through the ground. */
function LandformShape({ kind }: { kind: Landform["kind"] }) {
  if (kind === "flat") return null;
  const edge = kind === "escarpment" ? 96 : 100;
  const half = 62;
  return (
    <svg
      viewBox="0 0 200 64"
      width="100%"
      style={{ maxWidth: 320 }}
      role="img"
      aria-label="Height from the foot to the top; length from the top to half-way down, towards the wind"
    >
      <path d={PATHS[kind]} fill="none" stroke="currentColor" strokeWidth="2.5" />
      <line x1={edge} x2={edge} y1="14" y2="56" stroke="currentColor" strokeDasharray="3 3" />
      <line x1={half} x2={edge} y1="36" y2="36" stroke="currentColor" strokeDasharray="3 3" />
      <text x={edge + 4} y="50" fontSize="10" fill="currentColor">
        height
      </text>
      <text x={half - 4} y="32" fontSize="10" textAnchor="end" fill="currentColor">
        half-way
      </text>
      <text x="4" y="12" fontSize="10" fill="currentColor">
        wind →
      </text>
    </svg>
  );
}
