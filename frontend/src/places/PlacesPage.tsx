import AddIcon from "@mui/icons-material/Add";
import DeleteIcon from "@mui/icons-material/DeleteOutlined";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "../shell/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import IconButton from "@mui/material/IconButton";
import Paper from "@mui/material/Paper";
import Snackbar from "@mui/material/Snackbar";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { Problem, type Place, type PlaceSummary, type Use } from "../api/client";
import { usePlaceActions, usePlaces, usesOfPlace } from "../api/places";
import { InUseDialog } from "../shell/InUseDialog";
import { ProblemNote, Waiting } from "../shell/notes";
import { momentHere } from "../shell/time";
import { FileButton } from "../inputs/FileButton";
import { PositionInput } from "../inputs/PositionInput";
import { readPosition } from "../inputs/position";
import { newPlace } from "./newPlace";
import { PLACE_FILE, readPlaceFile } from "./placeFile";
import { PlaceSketch } from "./PlaceSketch";

function about(place: PlaceSummary): string {
  const parts = [
    `${place.drawn} drawn`,
    place.terrain ? "terrain" : "no terrain",
    place.zones ? `${place.zones} zones` : "no zones",
  ];
  return parts.join(" · ");
}

/** All places: drawn once, used by every session there. */
export function PlacesPage() {
  const places = usePlaces();
  const actions = usePlaceActions();
  const navigate = useNavigate();
  const example = useMutation({
    mutationFn: async () => (await import("./openDataExample")).makeExample(),
    onSuccess: (id) => navigate(`/places/${id}`),
    onSettled: actions.refresh,
  });
  const [adding, setAdding] = useState(false);
  const [deleted, setDeleted] = useState<PlaceSummary | null>(null);
  const [inUse, setInUse] = useState<{ place: PlaceSummary; uses: Use[] } | null>(null);
  const removeNow = (place: PlaceSummary) =>
    void actions.remove.mutateAsync(place.id).then(
      () => setDeleted(place),
      () => undefined,
    );
  const remove = (place: PlaceSummary) =>
    void usesOfPlace(place.id).then(
      (uses) => (uses.length > 0 ? setInUse({ place, uses }) : removeNow(place)),
      () => removeNow(place),
    );
  useEffect(() => {
    document.title = "Places · Lark";
  }, []);
  if (places.isPending) return <Waiting what="your places" />;
  if (places.error)
    return <ProblemNote problem={places.error as Problem} again={() => void places.refetch()} />;
  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 900 }}>
      <Box sx={{ display: "flex", alignItems: "center", mb: 1 }}>
        <Typography variant="h1" sx={{ flex: 1 }}>
          Places
        </Typography>
        <Button variant="contained" startIcon={<AddIcon />} onClick={() => setAdding(true)}>
          New place
        </Button>
      </Box>
      <Typography color="text.secondary" sx={{ mb: 1.5 }}>
        Draw obstacles, water and people at each place once. Every session there uses them.
      </Typography>
      {places.data.length === 0 && (
        <Typography>
          No places yet. Add one: the take-off point first, then the obstacles around it.
        </Typography>
      )}
      <Box sx={{ mb: 1 }}>
        <Button size="small" disabled={example.isPending} onClick={() => example.mutate()}>
          {example.isPending ? "Drawing the example…" : "Show an example drawn from open data"}
        </Button>
      </Box>
      {example.error && <ProblemNote problem={example.error as Problem} />}
      <Box
        component="ul"
        sx={{
          listStyle: "none",
          m: 0,
          p: 0,
          display: "grid",
          gridTemplateColumns: { md: "repeat(auto-fill, minmax(400px, 1fr))" },
          columnGap: 1,
        }}
      >
        {places.data.map((place) => (
          <Paper
            key={place.id}
            component="li"
            variant="outlined"
            sx={{ borderRadius: "14px", mb: 1, display: "flex", alignItems: "center" }}
          >
            <Box
              component={Link}
              to={`/places/${place.id}`}
              sx={{
                flex: 1,
                p: 1.25,
                display: "flex",
                alignItems: "center",
                gap: 1.5,
                color: "inherit",
                textDecoration: "none",
                minWidth: 0,
              }}
            >
              <PlaceSketch sketch={place.sketch} />
              <Box sx={{ minWidth: 0 }}>
                <Typography variant="h2">{place.name}</Typography>
                <Typography variant="body2" color="text.secondary">
                  {about(place)} · changed {momentHere(place.changed_at)}
                </Typography>
              </Box>
            </Box>
            <IconButton aria-label={`Delete ${place.name}`} onClick={() => remove(place)}>
              <DeleteIcon />
            </IconButton>
          </Paper>
        ))}
      </Box>
      {actions.remove.error && <ProblemNote problem={actions.remove.error as Problem} />}
      {inUse && (
        <InUseDialog
          name={inUse.place.name}
          uses={inUse.uses}
          after="They keep what is drawn there; new sessions can no longer take it."
          remove={() => removeNow(inUse.place)}
          onClose={() => setInUse(null)}
        />
      )}
      {adding && <NewPlaceDialog onClose={() => setAdding(false)} />}
      <Snackbar
        open={deleted !== null}
        autoHideDuration={12_000}
        onClose={(_, reason) => reason !== "clickaway" && setDeleted(null)}
        message={`${deleted?.name} deleted. Sessions planned there still have it.`}
        action={
          <Button
            color="inherit"
            onClick={() => {
              actions.restore.mutate(deleted!.id);
              setDeleted(null);
            }}
          >
            Undo
          </Button>
        }
      />
    </Box>
  );
}

function NewPlaceDialog({ onClose }: { onClose: () => void }) {
  const actions = usePlaceActions();
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const [position, setPosition] = useState("");
  const [tried, setTried] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const known = usePlaces().data ?? [];
  const at = readPosition(position);
  const bad = { name: name.trim() === "", position: at === null };

  const keep = async (place: Place | Promise<Place>) => {
    setProblem(null);
    try {
      const made = await actions.add.mutateAsync(await place);
      await navigate(`/places/${made.id}`);
    } catch (cause) {
      setProblem(cause instanceof Problem ? cause : new Problem(0, String(cause)));
    }
  };
  const make = () => {
    setTried(true);
    if (bad.name || !at) return;
    void keep(newPlace(name.trim(), at));
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="new-place">
      <DialogTitle id="new-place">New place</DialogTitle>
      <DialogContent>
        <TextField
          autoFocus
          fullWidth
          margin="dense"
          label="Name"
          value={name}
          error={tried && bad.name}
          helperText={tried && bad.name ? "Give the place a name." : undefined}
          onChange={(e) => setName(e.target.value)}
          slotProps={{ htmlInput: { maxLength: 120 } }}
        />
        <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
          The take-off point; the rest is drawn around it.
        </Typography>
        <PositionInput
          text={position}
          onChange={setPosition}
          known={known.flatMap((k) =>
            k.latitude === null || k.longitude === null
              ? []
              : [{ name: k.name, latitude: k.latitude, longitude: k.longitude }],
          )}
          fault={tried && bad.position ? "Give the position of the take-off point." : null}
        />
        {"geolocation" in navigator && (
          <Button
            onClick={() =>
              navigator.geolocation.getCurrentPosition(
                (p) =>
                  setPosition(`${p.coords.latitude.toFixed(6)}, ${p.coords.longitude.toFixed(6)}`),
                () =>
                  setProblem(
                    new Problem(
                      0,
                      "Couldn’t get this device’s location. Enter the coordinates instead.",
                    ),
                  ),
              )
            }
          >
            Use my location
          </Button>
        )}
        {problem && <ProblemNote problem={problem} />}
        <Typography variant="body2" color="text.secondary" sx={{ mt: 2 }}>
          Or a place file that Lark wrote:
        </Typography>
        <FileButton
          variant="outlined"
          sx={{ mt: 0.5 }}
          words="Choose a place file"
          accept={PLACE_FILE}
          onFile={(file) => void keep(readPlaceFile(file))}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" onClick={make} disabled={actions.add.isPending}>
          Draw it
        </Button>
      </DialogActions>
    </Dialog>
  );
}
