import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Link } from "react-router";
import { client, take, type Feature, type Plan, type Problem } from "../../api/client";
import { usePlace, usePlaceActions } from "../../api/places";
import { polar } from "../../map/local";
import { nameOf } from "../../map/roles";
import { heightAssumed, withHeight } from "../../places/mapData";
import { ProblemNote } from "../../shell/notes";
import { Panel } from "../../shell/Panel";
import { useUnits } from "../../shell/preferences";
import { bearing, written } from "../../units/units";

const BEYOND_M = 100;
const MOST = 6;

/** What stands near the flight with a height that nobody has seen: is it about right? */
export function HeightsToConfirm({ plan }: { plan: Plan }) {
  const place = plan.site.place;
  return place == null ? null : <Asked plan={plan} place={place} />;
}

function Asked({ plan, place }: { plan: Plan; place: number }) {
  const opened = usePlace(place).data;
  const { refresh } = usePlaceActions();
  const units = useUnits();
  const [problem, setProblem] = useState<Problem | null>(null);
  if (!opened) return null;
  const here = { lat: plan.site.latitude, lon: plan.site.longitude };
  const near = (opened.place.features as Feature[])
    .filter(heightAssumed)
    .map((feature) => {
      const corners = feature.coordinates.map(([lon, lat]) =>
        polar(here, { lon: lon!, lat: lat! }),
      );
      return {
        feature,
        at: corners.reduce((a, b) => (b.distance < a.distance ? b : a)),
      };
    })
    .filter(({ at }) => at.distance <= plan.flight.distance_m + BEYOND_M)
    .sort((a, b) => a.at.distance - b.at.distance)
    .slice(0, MOST);
  if (near.length === 0) return null;
  const confirm = async (feature: Feature) => {
    setProblem(null);
    const features = opened.place.features.map((f) =>
      f.id === feature.id ? withHeight(feature, feature.height_m) : f,
    );
    try {
      await take(
        client.PUT("/api/places/{place_id}", {
          params: { path: { place_id: place } },
          body: { place: { ...opened.place, features }, revision: opened.revision },
        }),
      );
      refresh();
    } catch (cause) {
      setProblem(cause as Problem);
    }
  };
  return (
    <Panel title="Heights to confirm" hint="the map gives none">
      {problem && <ProblemNote problem={problem} />}
      <Box component="ul" aria-label="Heights to confirm" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {near.map(({ feature, at }) => (
          <Box
            component="li"
            key={feature.id}
            sx={{ display: "flex", alignItems: "center", gap: 1, minHeight: 52 }}
          >
            <Typography sx={{ flex: 1 }}>
              Is the {nameOf(feature)}, {written(at.distance, "length", units)} towards{" "}
              {bearing(at.bearing)}, about <b>{written(feature.height_m, "length", units)}</b> high?
            </Typography>
            <Button variant="outlined" onClick={() => void confirm(feature)}>
              Yes
            </Button>
            <Button component={Link} to={`/places/${place}`}>
              Edit
            </Button>
          </Box>
        ))}
      </Box>
    </Panel>
  );
}
