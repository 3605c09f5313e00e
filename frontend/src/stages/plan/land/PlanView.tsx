import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useTheme } from "@mui/material/styles";
import type { LeafletEvent, Marker as LeafletMarker } from "leaflet";
import { useMemo } from "react";
import { Circle, Marker, Polygon, Polyline, Tooltip } from "react-leaflet";
import type { Feature, OpenedPlace, Plan, Result, Section, Survey } from "../../../api/client";
import { lowestGap } from "../../../drawings/section";
import type { Change } from "../../../editing/change";
import { useUnits } from "../../../shell/preferences";
import { FeatureLayer, latLngs, ZoneLayer } from "../../../map/FeatureLayer";
import { destination, polar, type LatLon } from "../../../map/local";
import { MapView } from "../../../map/MapView";
import { icon } from "../../../map/marks";
import { bearing, written } from "../../../units/units";

function at(e: LeafletEvent): LatLon {
  const { lat, lng } = (e.target as LeafletMarker).getLatLng();
  return { lat, lon: lng };
}

function ring(centre: LatLon, bearings: number[], distances: number[]): [number, number][] {
  return bearings.map((b, i) => {
    const p = destination(centre, b, distances[i] ?? 0);
    return [p.lat, p.lon];
  });
}

/** The session from above: how far it reaches, what is seen, what stands, and which way the wind goes. */
export function PlanView({
  opened,
  plan,
  result,
  survey,
  section,
  change,
}: {
  opened: OpenedPlace;
  plan: Plan;
  result: Result;
  survey: Survey | undefined;
  section: Section | undefined;
  change: Change<Plan>;
}) {
  const units = useUnits();
  const { site, flight, settings } = plan;
  const here = { lat: site.latitude, lon: site.longitude };
  const far = destination(here, flight.bearing_deg, flight.distance_m);
  const length = (m: number) => written(m, "length", units);
  const home = Math.max(flight.height_m, settings.rth_altitude_m);
  const along = section && Math.abs(section.bearing_deg - flight.bearing_deg) < 0.01;
  const gap = along ? lowestGap(section, flight.distance_m, home) : null;
  const fit = [
    here,
    far,
    ...[0, 90, 180, 270].map((b) => destination(here, b, Math.max(150, flight.distance_m * 1.15))),
  ];
  const takeoff = useMemo(() => icon("takeoff", "var(--ink)", "Take-off", true), []);
  const clears = gap
    ? `home ${length(home)}: ${gap.metres < 0 ? `${length(-gap.metres)} too low for` : `${length(gap.metres)} over`} ${gap.what}`
    : `home ${length(home)}`;
  // On a narrow screen there is no room beside it; the section says the same.
  const wide = useMediaQuery(useTheme().breakpoints.up("md"), { noSsr: true });
  const beyond = wide ? clears : "";
  // The handle's own icon never changes: a new one would take it out of the hand in mid-drag.
  const end = useMemo(() => icon("far", "var(--ink)", "", true), []);
  const words = useMemo(() => icon("none", "var(--ink)", beyond, true), [beyond]);
  // The way home is drawn beside the way out, on the right hand of one who flies it.
  const beside = (p: LatLon): [number, number] => {
    const off = destination(p, flight.bearing_deg - 90, Math.max(4, flight.distance_m * 0.03));
    return [off.lat, off.lon];
  };
  const water = site.over_water || survey?.over_water;

  return (
    <Box sx={{ position: "relative" }}>
      <MapView
        centre={here}
        terrain={opened.terrain}
        picture={opened.place.picture}
        fit={fit}
        height={400}
        label="Plan view of the session"
      >
        <ZoneLayer zones={opened.place.zones} />
        <FeatureLayer features={opened.place.features} named={false} />
        <FeatureLayer features={typedFeatures(plan)} named={false} />
        {result.reach && (
          <Polygon
            positions={ring(here, result.reach.bearing_deg, result.reach.distance_m)}
            interactive={false}
            pathOptions={{ color: "var(--launch)", weight: 3, fillOpacity: 0.06 }}
          />
        )}
        {survey && (
          <Polygon
            positions={ring(here, survey.bearing_deg, survey.signal_m)}
            interactive={false}
            pathOptions={{ color: "var(--wind)", weight: 3, dashArray: "10 6", fill: false }}
          />
        )}
        <Circle
          center={[here.lat, here.lon]}
          radius={result.sight.limit_m}
          interactive={false}
          pathOptions={{ color: "var(--ink)", weight: 3, dashArray: "1 6", fill: false }}
        />
        {water && (
          <Circle
            center={[here.lat, here.lon]}
            radius={plan.minimums.water_distance_m}
            interactive={false}
            pathOptions={{ color: "var(--care)", weight: 3, dashArray: "3 5 10 5", fill: false }}
          />
        )}
        {wide &&
          survey?.subjects.map((x) => {
            const at = opened.place.features.find((f) => f.id === x.id)?.coordinates[0];
            const lit = x.light === "none" ? "" : `, ${x.light} light`;
            return (
              at && (
                <Marker
                  key={`${x.id}${x.light}`}
                  position={[at[1]!, at[0]!]}
                  icon={icon("none", "var(--ink)", `${x.name || "Subject"}${lit}`)}
                  interactive={false}
                  keyboard={false}
                />
              )
            );
          })}
        {survey?.moves.map((m, i) => (
          <Polygon
            key={i}
            positions={latLngs(m.outline)}
            pathOptions={{ color: "var(--care)", weight: 2, fillOpacity: 0.2 }}
          >
            <Tooltip sticky>{m.name}</Tooltip>
          </Polygon>
        ))}
        <Polyline
          positions={[
            [here.lat, here.lon],
            [far.lat, far.lon],
          ]}
          interactive={false}
          pathOptions={{ color: "var(--ink)", weight: 4 }}
        />
        <Polyline
          positions={[beside(far), beside(here)]}
          interactive={false}
          pathOptions={{
            color: gap && gap.metres < 0 ? "var(--stay)" : "var(--ink)",
            weight: 3,
            dashArray: "9 6",
          }}
        />
        <Marker position={[far.lat, far.lon]} icon={words} interactive={false} keyboard={false} />
        <Marker
          position={[far.lat, far.lon]}
          icon={end}
          draggable
          zIndexOffset={1000}
          title={`Far point: ${length(flight.distance_m)} towards ${bearing(flight.bearing_deg)}`}
          alt="Far point"
          eventHandlers={{
            drag: (e) => {
              const p = polar(here, at(e));
              change(["flight"], {
                ...flight,
                bearing_deg: Math.round(p.bearing * 10) / 10,
                distance_m: Math.round(p.distance),
              });
            },
          }}
        />
        <Marker
          position={[here.lat, here.lon]}
          icon={takeoff}
          draggable
          zIndexOffset={1000}
          title="Take-off point"
          alt="Take-off point"
          eventHandlers={{
            drag: (e) => {
              const to = at(e);
              change(["site"], {
                ...site,
                latitude: Number(to.lat.toFixed(6)),
                longitude: Number(to.lon.toFixed(6)),
              });
            },
          }}
        />
      </MapView>
      <Winds result={result} most={plan.aircraft.max_wind_ms} />
    </Box>
  );
}

type Wind = NonNullable<Result["wind"]>["planned"];

/** The wind at the flying height, and at the return height where it is another one. */
function Winds({ result, most }: { result: Result; most: number }) {
  const units = useUnits();
  if (!result.wind) return null;
  const { planned, return: back } = result.wind;
  const shown: Wind[] = back.height_m === planned.height_m ? [planned] : [planned, back];
  return (
    <Box
      sx={{
        position: "absolute",
        right: 8,
        bottom: 8,
        zIndex: 500,
        bgcolor: "background.paper",
        border: 1,
        borderColor: "divider",
        borderRadius: 2,
        px: 1,
        py: 0.5,
        pointerEvents: "none",
      }}
    >
      {shown.map((w) => {
        const size = 9 + 10 * Math.min(1, w.speed_ms / most);
        return (
          <Box key={w.height_m} sx={{ display: "flex", alignItems: "center", gap: 1 }}>
            <svg
              width="40"
              height="40"
              viewBox="-20 -20 40 40"
              role="img"
              aria-label={`Wind from ${bearing(w.direction_deg)}`}
            >
              <g transform={`rotate(${w.direction_deg})`} stroke="var(--wind)" strokeWidth="3.5">
                <path
                  d={`M0 ${-size}V${size}M-6 ${size - 8}L0 ${size}L6 ${size - 8}`}
                  fill="none"
                  strokeLinecap="round"
                />
              </g>
            </svg>
            <Typography sx={{ fontSize: 14 }}>
              <b>{written(w.speed_ms, "speed", units)}</b> at {written(w.height_m, "length", units)}
            </Typography>
          </Box>
        );
      })}
    </Box>
  );
}

/** Half the length of typed wires, square to their bearing, as the checks take them [m]. */
const WIRES_HALF_M = 100;

/** What is typed or seen on the look-round, as things on the plan view, where the checks take it to be. */
export function typedFeatures(plan: Plan): Feature[] {
  const here = { lat: plan.site.latitude, lon: plan.site.longitude };
  return plan.site.obstacles.map((o, i) => {
    const near = destination(here, o.bearing_deg, o.distance_m);
    const ends =
      o.kind === "wires"
        ? [-90, 90].map((turn) => destination(near, o.bearing_deg + turn, WIRES_HALF_M))
        : [near, destination(here, o.bearing_deg, o.distance_m + Math.max(o.depth_m, 2))];
    return {
      id: `typed-${i}`,
      role: "obstacle",
      name: "",
      shape: "line",
      coordinates: ends.map((p) => [p.lon, p.lat]),
      kind: o.kind,
      height_m: o.height_m,
      radius_m: null,
      note: "",
      origin: null,
    };
  });
}
