import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Paper from "@mui/material/Paper";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Feature } from "../api/client";
import { Choice, Words } from "../inputs/fields";
import { OptionalQuantityInput, QuantityInput } from "../inputs/QuantityInput";
import { polar, type LatLon } from "../map/local";
import { nameOf, ROLES } from "../map/roles";
import { OBSTACLES } from "../stages/plan/names";
import { HeightDialog } from "./HeightDialog";
import { heightAssumed, withHeight } from "./mapData";
import { pacedOut, withCorner } from "./placeEdit";

/** What a drawn thing is, how high, and where: typed as coordinates, or paced out from the take-off point. */
export function FeatureForm({
  feature,
  origin,
  onChange,
  onClose,
  onDelete,
}: {
  feature: Feature;
  origin: LatLon | null;
  onChange: (feature: Feature) => void;
  onClose: () => void;
  onDelete: () => void;
}) {
  const [finding, setFinding] = useState(false);
  const set = <K extends keyof Feature>(key: K, value: Feature[K]) =>
    onChange({ ...feature, [key]: value });
  const tall = feature.role === "obstacle" || feature.role === "subject";
  return (
    <Paper
      component="section"
      aria-label={nameOf(feature)}
      variant="outlined"
      sx={{ borderRadius: "14px", p: 1.5, mb: 1 }}
    >
      <Typography variant="h2">{ROLES[feature.role].name}</Typography>
      <Words label="Name" value={feature.name} onChange={(v) => set("name", v)} />
      {feature.role === "obstacle" && feature.kind && (
        <Choice
          label="What"
          value={feature.kind}
          options={OBSTACLES}
          onChange={(v) => set("kind", v)}
        />
      )}
      {tall && (
        <>
          <QuantityInput
            label="Height"
            hint="above the ground"
            quantity="length"
            value={feature.height_m}
            min={feature.role === "obstacle" ? 1 : 0}
            max={60}
            most={1000}
            onChange={(v) => onChange(withHeight(feature, v))}
          />
          {heightAssumed(feature) && (
            <Typography variant="body2">
              Assumed: the map gives no height, this is usual for its kind.{" "}
              <Button size="small" onClick={() => onChange(withHeight(feature, feature.height_m))}>
                It’s about that
              </Button>
            </Typography>
          )}
          {feature.role === "obstacle" && (
            <Button size="small" onClick={() => setFinding(true)}>
              Find its height
            </Button>
          )}
        </>
      )}
      {feature.kind === "wires" && (
        <Typography variant="body2" color="text.secondary">
          Wires count at the height of their poles all along; their sag is left out, on the safe
          side.
        </Typography>
      )}
      {feature.role === "airfield" && (
        <OptionalQuantityInput
          label="Keep-out distance"
          unknown="as your rules say"
          quantity="length"
          value={feature.radius_m}
          first={5000}
          min={100}
          max={10_000}
          most={50_000}
          onChange={(v) => set("radius_m", v)}
        />
      )}
      <Words label="Note" value={feature.note} max={2000} onChange={(v) => set("note", v)} />
      <Typography component="h3" sx={{ fontWeight: 700, mt: 1 }}>
        Where
      </Typography>
      <Box sx={{ maxHeight: 300, overflowY: "auto" }}>
        {feature.coordinates.map(([lon, lat], i) => (
          <Corner
            key={i}
            label={feature.coordinates.length > 1 ? `Corner ${i + 1}` : "Point"}
            at={{ lat: lat!, lon: lon! }}
            origin={origin}
            onMove={(to) => onChange(withCorner(feature, i, to))}
          />
        ))}
      </Box>
      <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
        <Button variant="contained" onClick={onClose}>
          Done
        </Button>
        <Button color="error" onClick={onDelete}>
          Delete
        </Button>
      </Box>
      {finding && (
        <HeightDialog
          at={{ lat: feature.coordinates[0]![1]!, lon: feature.coordinates[0]![0]! }}
          distance={
            origin &&
            Math.min(
              ...feature.coordinates.map(
                ([lon, lat]) => polar(origin, { lat: lat!, lon: lon! }).distance,
              ),
            )
          }
          onClose={() => setFinding(false)}
          onFound={(height) => {
            set("height_m", height);
            setFinding(false);
          }}
        />
      )}
    </Paper>
  );
}

function Corner({
  label,
  at,
  origin,
  onMove,
}: {
  label: string;
  at: LatLon;
  origin: LatLon | null;
  onMove: (to: LatLon) => void;
}) {
  const from = origin && polar(origin, at);
  const degree = { quantity: "angle", digits: 6, slider: false } as const;
  const itself = from !== null && from.distance < 0.01;
  return (
    <Box role="group" aria-label={label} sx={{ borderTop: 1, borderColor: "divider", pt: 0.5 }}>
      <QuantityInput
        {...degree}
        label={`${label}, latitude`}
        value={at.lat}
        min={-90}
        max={90}
        onChange={(lat) => onMove({ ...at, lat })}
      />
      <QuantityInput
        {...degree}
        label="longitude"
        value={at.lon}
        min={-180}
        max={180}
        onChange={(lon) => onMove({ ...at, lon })}
      />
      {origin && from && !itself && (
        <>
          <QuantityInput
            label="Bearing from the take-off"
            quantity="angle"
            digits={1}
            slider={false}
            value={from.bearing}
            min={0}
            max={360}
            onChange={(v) => onMove(pacedOut(origin, v, from.distance))}
          />
          <QuantityInput
            label="Distance from the take-off"
            quantity="length"
            digits={1}
            slider={false}
            value={from.distance}
            min={0}
            max={20_000}
            onChange={(v) => onMove(pacedOut(origin, from.bearing, v))}
          />
        </>
      )}
    </Box>
  );
}
