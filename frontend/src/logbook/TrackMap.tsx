import { useMemo } from "react";
import { Marker, Polyline } from "react-leaflet";
import type { FlightTrack, OpenedPlace, Plan } from "../api/client";
import { useUnits } from "../shell/preferences";
import { FeatureLayer, ZoneLayer } from "../map/FeatureLayer";
import { destination, fromXY, type LatLon } from "../map/local";
import { MapView } from "../map/MapView";
import { icon } from "../map/marks";
import { againstPlan } from "./words";

const pair = ({ lat, lon }: LatLon): [number, number] => [lat, lon];

/** Where it went, on the place as it is drawn, beside where it was planned to go. */
export function TrackMap({
  track,
  plan,
  opened,
}: {
  track: FlightTrack;
  plan: Plan;
  opened: OpenedPlace;
}) {
  const units = useUnits();
  const { drawn, facts } = track;
  const flown = useMemo(() => {
    const from = { lat: drawn.latitude, lon: drawn.longitude };
    return drawn.east_m.map((east, i) => fromXY(from, east, drawn.north_m[i]!));
  }, [drawn]);
  const start = { lat: plan.site.latitude, lon: plan.site.longitude };
  const end = destination(start, plan.flight.bearing_deg, plan.flight.distance_m);
  const marks = useMemo(
    () => ({
      takeoff: icon("takeoff", "var(--ink)", "Take-off", true),
      far: icon("far", "var(--ink)", "Planned"),
    }),
    [],
  );
  return (
    <figure style={{ margin: 0 }}>
      <MapView
        centre={start}
        terrain={opened.terrain}
        picture={opened.place.picture}
        fit={[start, end, ...flown]}
        height={320}
        label={`The track on the plan view. ${againstPlan(facts, plan, units)}`}
      >
        <ZoneLayer zones={opened.place.zones} />
        <FeatureLayer features={opened.place.features} named={false} />
        <Polyline
          positions={[pair(start), pair(end)]}
          interactive={false}
          pathOptions={{ color: "var(--muted)", weight: 3, dashArray: "9 6" }}
        />
        {/* Light under dark, so that it is seen over water, wood and shade alike. */}
        {[
          { color: "var(--card)", weight: 7 },
          { color: "var(--ink)", weight: 3 },
        ].map((line) => (
          <Polyline
            key={line.weight}
            positions={flown.map(pair)}
            className={line.weight < 5 ? "flown" : undefined}
            interactive={false}
            pathOptions={line}
          />
        ))}
        <Marker position={pair(end)} icon={marks.far} interactive={false} keyboard={false} />
        <Marker
          position={[drawn.latitude, drawn.longitude]}
          icon={marks.takeoff}
          interactive={false}
          keyboard={false}
        />
      </MapView>
      <figcaption style={{ fontSize: ".85rem", color: "var(--muted)" }}>
        {againstPlan(facts, plan, units)}
      </figcaption>
    </figure>
  );
}
