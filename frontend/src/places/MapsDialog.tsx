import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import FormControlLabel from "@mui/material/FormControlLabel";
import Radio from "@mui/material/Radio";
import RadioGroup from "@mui/material/RadioGroup";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Problem } from "../api/client";
import {
  NOTHING_UNDER,
  useChangeTiles,
  useMapActions,
  useMaps,
  useTiles,
  type MapArchive,
} from "../api/tiles";
import { FileButton } from "../inputs/FileButton";
import Dialog from "../shell/Dialog";
import { ProblemNote } from "../shell/notes";

const NONE = "none";
const ELSEWHERE = "elsewhere";

const sizeOf = (map: MapArchive) =>
  `zoom ${map.min_zoom} to ${map.max_zoom}, ${map.tiles.toLocaleString("en")} tiles, ${map.megabytes.toFixed(1)} MB`;

/** The map under every drawing: an archive that Lark keeps, or tiles from elsewhere. */
export function MapsDialog({ onClose }: { onClose: () => void }) {
  const under = useTiles();
  const maps = useMaps();
  const change = useChangeTiles();
  const { add, remove } = useMapActions();
  const [chosen, setChosen] = useState<string | null>(null);
  const [address, setAddress] = useState<string | null>(null);
  const [leaving, setLeaving] = useState<MapArchive | null>(null);
  const kept = under.data ?? NOTHING_UNDER;
  const choice = chosen ?? kept.archive ?? (kept.address ? ELSEWHERE : NONE);
  const typed = address ?? kept.address ?? "";
  const problem = (change.error ?? add.error ?? remove.error ?? maps.error) as Problem | null;
  const keep = async () => {
    await change.mutateAsync({
      archive: choice === NONE || choice === ELSEWHERE ? null : choice,
      address: choice === ELSEWHERE ? typed : null,
    });
    // The page's own policy names where pictures may come from; it is read when the page loads.
    if (choice === ELSEWHERE || kept.address) window.location.reload();
    else onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="maps-title">
      <DialogTitle id="maps-title">Map under the drawings</DialogTitle>
      <DialogContent>
        <Typography variant="body2" sx={{ mb: 1 }}>
          Lark ships no map. A map archive (MBTiles or PMTiles, with pictures) stays in Lark’s data
          folder and needs no network.
        </Typography>
        <RadioGroup
          aria-label="Map under the drawings"
          value={choice}
          onChange={(_, value) => setChosen(value)}
        >
          <FormControlLabel value={NONE} control={<Radio />} label="None" />
          {maps.data?.map((map) => (
            <Box key={map.digest} sx={{ display: "flex", alignItems: "center", gap: 1 }}>
              <FormControlLabel
                sx={{ flex: 1 }}
                value={map.digest}
                control={<Radio />}
                label={
                  <>
                    {map.name}
                    <Typography variant="body2" color="text.secondary">
                      {sizeOf(map)}
                      {map.attribution && `. ${map.attribution}`}
                    </Typography>
                  </>
                }
              />
              <Button
                size="small"
                color="error"
                aria-label={`Delete ${map.name}`}
                onClick={() => setLeaving(map)}
              >
                Delete
              </Button>
            </Box>
          ))}
          <FormControlLabel
            value={ELSEWHERE}
            control={<Radio />}
            label="Tiles from an address. That server sees which places you view."
          />
        </RadioGroup>
        {choice === ELSEWHERE && (
          <TextField
            fullWidth
            margin="dense"
            label="Address"
            placeholder="https://tiles.example.org/{z}/{x}/{y}.png"
            value={typed}
            onChange={(e) => setAddress(e.target.value.trim())}
          />
        )}
        {leaving && (
          <Alert
            severity="warning"
            action={
              <>
                <Button onClick={() => setLeaving(null)}>Keep it</Button>
                <Button
                  color="error"
                  onClick={() => {
                    if (choice === leaving.digest) setChosen(NONE);
                    remove.mutate(leaving.digest);
                    setLeaving(null);
                  }}
                >
                  Delete for good
                </Button>
              </>
            }
          >
            Delete {leaving.name}? It can’t be undone; you would bring the file in again.
          </Alert>
        )}
        {problem && <ProblemNote problem={problem} />}
        <Box sx={{ mt: 1 }}>
          <FileButton
            variant="outlined"
            size="small"
            disabled={add.isPending}
            words={add.isPending ? "Reading the archive…" : "Import a map archive"}
            label="Import a map archive"
            accept=".mbtiles,.pmtiles"
            onFile={(file) =>
              add.mutate(file, { onSuccess: (brought) => setChosen(brought.digest) })
            }
          />
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          disabled={
            under.data === undefined ||
            change.isPending ||
            add.isPending ||
            (choice === ELSEWHERE && typed === "")
          }
          onClick={() => void keep().catch(() => undefined)}
        >
          Use it
        </Button>
      </DialogActions>
    </Dialog>
  );
}
