import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useTheme } from "@mui/material/styles";
import { useMemo, useState } from "react";
import type { Feature, OpenedPlace } from "../api/client";
import type { MapData } from "../api/places";
import { FeatureLayer } from "../map/FeatureLayer";
import { MapView } from "../map/MapView";
import type { LatLon } from "../map/local";
import Dialog from "../shell/Dialog";
import { counts, GROUPS, taken, type Group, type GroupCount } from "./mapData";

const NEAR_M = 1000;

/** What the map has around a place, group by group on the plan view, before any of it is drawn. */
export function MapReview({
  data,
  opened,
  origin,
  onTake,
  onClose,
}: {
  data: MapData;
  opened: OpenedPlace;
  origin: LatLon;
  onTake: (features: Feature[]) => void;
  onClose: () => void;
}) {
  const wide = useMediaQuery(useTheme().breakpoints.up("md"), { noSsr: true });
  const rows = useMemo(() => counts(data), [data]);
  const [groups, setGroups] = useState<ReadonlySet<Group>>(
    () => new Set(rows.map((r) => r.group).filter((g) => !data.left_out_first.includes(g))),
  );
  const turn = (group: Group) => {
    const next = new Set(groups);
    if (!next.delete(group)) next.add(group);
    setGroups(next);
  };
  const shown = data.things.filter((t) => groups.has(t.group)).map((t) => t.feature);
  const fit = data.things
    .filter((t) => t.distance_m <= NEAR_M)
    .flatMap((t) => t.feature.coordinates.map(([lon, lat]) => ({ lon: lon!, lat: lat! })));
  const takeoffs = opened.place.features.filter((f) => f.role === "takeoff");
  const fresh = taken(data, groups);
  return (
    <Dialog
      open
      onClose={onClose}
      fullWidth
      maxWidth="lg"
      fullScreen={!wide}
      aria-labelledby="map-review-title"
    >
      <DialogTitle id="map-review-title">What the map has here</DialogTitle>
      <DialogContent>
        <Box
          sx={{
            display: "grid",
            gap: 1.5,
            gridTemplateColumns: { xs: "minmax(0,1fr)", md: "330px minmax(0,1fr)" },
          }}
        >
          <Box>
            {rows.map((row) => (
              <GroupRow
                key={row.group}
                row={row}
                on={groups.has(row.group)}
                onTurn={() => turn(row.group)}
              />
            ))}
            <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
              Heights marked as assumed are the usual ones of their kind. Lark asks about them on
              site. A map never shows everything: wires above all.
            </Typography>
            {data.too_many > 0 && (
              <Typography variant="body2">
                {data.too_many} more, the farthest, don’t fit into one place.
              </Typography>
            )}
            <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
              {data.attribution}
            </Typography>
          </Box>
          <MapView
            centre={origin}
            terrain={opened.terrain}
            picture={opened.place.picture}
            fit={fit}
            height={wide ? 520 : 300}
            label="What would be drawn"
          >
            <FeatureLayer features={[...takeoffs, ...shown]} named={false} />
          </MapView>
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={fresh.length === 0} onClick={() => onTake(fresh)}>
          {fresh.length === 0 ? "Nothing new" : `Draw ${fresh.length}`}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function GroupRow({ row, on, onTurn }: { row: GroupCount; on: boolean; onTurn: () => void }) {
  const notes = [
    row.assumed > 0 && `${row.assumed} with an assumed height`,
    row.kept > 0 && `${row.kept} drawn already`,
  ].filter(Boolean);
  return (
    <FormControlLabel
      sx={{ display: "flex", minHeight: 48, mr: 0 }}
      control={<Checkbox checked={on} onChange={onTurn} />}
      label={
        <>
          <b>{row.count}</b> · {GROUPS[row.group]}
          {notes.length > 0 && (
            <Typography component="div" variant="body2" color="text.secondary">
              {notes.join(", ")}
            </Typography>
          )}
        </>
      }
    />
  );
}
