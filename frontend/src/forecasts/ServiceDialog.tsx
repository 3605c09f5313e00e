import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Problem, type OwnSource, type SourceDraft } from "../api/client";
import { useSourceActions } from "../api/forecasts";
import Dialog from "../shell/Dialog";
import { ProblemNote } from "../shell/notes";

const EMPTY: SourceDraft = {
  name: "",
  url: "",
  collection: "",
  header: "X-Api-Key",
  key: "",
  own_network: false,
};

/** A forecast service under an address: tried first, then one of its collections is taken. */
export function ServiceDialog({ own, onClose }: { own: OwnSource | null; onClose: () => void }) {
  const { attempt, save } = useSourceActions();
  const [draft, setDraft] = useState<SourceDraft>(() =>
    own
      ? {
          name: own.name,
          url: own.url,
          collection: own.collection,
          header: own.header,
          key: "",
          own_network: own.own_network,
        }
      : EMPTY,
  );
  const offered = attempt.data ?? [];
  const set = (change: Partial<SourceDraft>) => {
    setDraft({ ...draft, ...change });
    // What another address offered is not what this one does.
    if ("url" in change || "own_network" in change) attempt.reset();
  };
  const tryIt = () =>
    attempt.mutate(
      { draft, of: own?.id ?? null },
      {
        onSuccess: (found) => {
          const first = found.find((c) => c.id === draft.collection) ?? found[0]!;
          setDraft((d) => ({ ...d, collection: first.id, name: d.name || first.title }));
        },
      },
    );
  const chosen = offered.find((c) => c.id === draft.collection);
  const ready = draft.name.trim() && draft.collection && (offered.length > 0 || own !== null);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (ready)
            save.mutate(
              { draft: { ...draft, name: draft.name.trim() }, id: own?.id ?? null },
              { onSuccess: onClose },
            );
          else tryIt();
        }}
      >
        <DialogTitle>{own ? `Change ${own.name}` : "Add a forecast service"}</DialogTitle>
        <DialogContent>
          <Typography variant="body2" sx={{ mb: 1 }}>
            Any service that speaks OGC API – Environmental Data Retrieval and answers in
            CoverageJSON. Its provider tells you the address, and whether it needs a key.
          </Typography>
          <TextField
            autoFocus
            fullWidth
            required
            margin="dense"
            label="Address"
            placeholder="https://…"
            value={draft.url}
            slotProps={{ htmlInput: { inputMode: "url", maxLength: 500 } }}
            onChange={(e) => set({ url: e.target.value, collection: "" })}
          />
          <TextField
            fullWidth
            margin="dense"
            type="password"
            autoComplete="off"
            label="Key, where it needs one"
            helperText={
              own?.has_key
                ? "A key is kept. Leave this empty to keep it; it is never shown."
                : "It is kept on this computer, in no backup or archive, and sent to this address only."
            }
            value={draft.key}
            slotProps={{ htmlInput: { maxLength: 400 } }}
            onChange={(e) => set({ key: e.target.value })}
          />
          {(draft.key || own?.has_key) && (
            <TextField
              fullWidth
              margin="dense"
              label="Sent in the header"
              value={draft.header}
              onChange={(e) => set({ header: e.target.value })}
            />
          )}
          <FormControlLabel
            control={
              <Checkbox
                checked={draft.own_network}
                onChange={(e) => set({ own_network: e.target.checked })}
              />
            }
            label="On my own network"
            sx={{ display: "flex" }}
          />
          <Button
            variant="outlined"
            sx={{ my: 1 }}
            disabled={!draft.url.trim() || attempt.isPending}
            onClick={tryIt}
          >
            {attempt.isPending ? "Trying…" : "Try it"}
          </Button>
          {offered.length > 0 && (
            <>
              <TextField
                select
                fullWidth
                margin="dense"
                label="Model"
                value={draft.collection}
                onChange={(e) => {
                  const title = offered.find((c) => c.id === e.target.value)!.title;
                  const named = offered.some((c) => c.title === draft.name) || !draft.name;
                  set({ collection: e.target.value, name: named ? title : draft.name });
                }}
              >
                {offered.map((c) => (
                  <MenuItem key={c.id} value={c.id}>
                    {c.title}
                  </MenuItem>
                ))}
              </TextField>
              <Typography variant="body2" color="text.secondary">
                It answers.{" "}
                {chosen && `It has ${chosen.parameters.join(", ").replaceAll("_", " ")}.`}
              </Typography>
            </>
          )}
          <TextField
            fullWidth
            required
            margin="dense"
            label="What you call it"
            value={draft.name}
            slotProps={{ htmlInput: { maxLength: 120 } }}
            onChange={(e) => set({ name: e.target.value })}
          />
          {(save.error ?? attempt.error) instanceof Problem && (
            <ProblemNote problem={(save.error ?? attempt.error) as Problem} />
          )}
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={!ready || save.isPending}>
            {own ? "Save" : "Add it"}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
