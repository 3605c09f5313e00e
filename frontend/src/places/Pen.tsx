import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import L from "leaflet";
import { useEffect, useRef, useState } from "react";
import { CircleMarker, Polygon, Polyline, Tooltip, useMapEvents } from "react-leaflet";
import { createPortal } from "react-dom";
import { useUnits } from "../shell/preferences";
import { polar, type LatLon } from "../map/local";
import type { Tool } from "../map/roles";
import { bearing, written } from "../units/units";

const LEAST = { point: 1, line: 2, area: 3 } as const;

/** Drawing with taps: one for a point; as many as it takes for lines and areas, then Done. */
export function Pen({
  tool,
  measuring,
  origin,
  onDone,
  onCancel,
}: {
  tool: Tool;
  measuring: boolean;
  origin: LatLon | null;
  onDone: (points: LatLon[]) => void;
  onCancel: () => void;
}) {
  const units = useUnits();
  const [points, setPoints] = useState<LatLon[]>([]);
  const enough = points.length >= LEAST[tool.shape];
  const map = useMapEvents({
    click: (e) => {
      const at = { lat: e.latlng.lat, lon: e.latlng.lng };
      if (tool.shape === "point") onDone([at]);
      else setPoints((old) => [...old, at]);
    },
  });
  useEffect(() => {
    const box = map.getContainer();
    box.style.cursor = "crosshair";
    return () => void (box.style.cursor = "");
  }, [map]);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.key === "Escape") onCancel();
      if (e.key === "Enter" && enough && !measuring) onDone(points);
      if (e.key === "Backspace") setPoints((old) => old.slice(0, -1));
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [enough, measuring, onCancel, onDone, points]);

  const positions = points.map((p): [number, number] => [p.lat, p.lon]);
  const last = points.at(-1);
  const before = points.at(-2) ?? (measuring ? null : origin);
  const leg = last && before && polar(before, last);
  const total = points.slice(1).reduce((sum, p, i) => sum + polar(points[i]!, p).distance, 0);
  const said = leg
    ? `${written(leg.distance, "length", units)} towards ${bearing(leg.bearing)}` +
      (points.length > 2 ? `, ${written(total, "length", units)} in all` : "")
    : tool.shape === "point"
      ? "Tap where it is."
      : measuring
        ? "Tap the start point, then the end point."
        : "Tap its corners, one after another.";
  const style = { color: "var(--ink)", weight: 3, dashArray: "6 4", fillOpacity: 0.15 };
  return (
    <>
      {tool.shape === "area" && positions.length > 2 ? (
        <Polygon positions={positions} pathOptions={style} interactive={false} />
      ) : (
        <Polyline positions={positions} pathOptions={style} interactive={false} />
      )}
      {positions.map((p, i) => (
        <CircleMarker
          key={i}
          center={p}
          radius={6}
          interactive={false}
          pathOptions={{ color: "var(--ink)", fillColor: "var(--card)", fillOpacity: 1 }}
        >
          {i === positions.length - 1 && leg && (
            <Tooltip permanent direction="top" offset={[0, -8]}>
              {said}
            </Tooltip>
          )}
        </CircleMarker>
      ))}
      {createPortal(
        <Bar>
          <Typography sx={{ flex: 1, minWidth: 160 }} aria-live="polite">
            <b>{tool.label}.</b> {said}
          </Typography>
          {points.length > 0 && (
            <Button onClick={() => setPoints(points.slice(0, -1))}>Undo point</Button>
          )}
          {!measuring && tool.shape !== "point" && (
            <Button variant="contained" disabled={!enough} onClick={() => onDone(points)}>
              Done
            </Button>
          )}
          <Button onClick={onCancel}>{measuring ? "Close" : "Cancel"}</Button>
        </Bar>,
        map.getContainer(),
      )}
    </>
  );
}

/** A bar over the map whose taps do not reach the map. */
function Bar({ children }: { children: React.ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!box.current) return;
    L.DomEvent.disableClickPropagation(box.current);
    L.DomEvent.disableScrollPropagation(box.current);
  }, []);
  return (
    <Box
      ref={box}
      sx={{
        position: "absolute",
        left: 8,
        right: 8,
        bottom: 36,
        zIndex: 1000,
        display: "flex",
        flexWrap: "wrap",
        alignItems: "center",
        gap: 1,
        bgcolor: "background.paper",
        border: 1,
        borderColor: "divider",
        borderRadius: 2,
        px: 1.5,
        py: 0.5,
        cursor: "default",
      }}
    >
      {children}
    </Box>
  );
}
