import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import ButtonBase from "@mui/material/ButtonBase";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import Typography from "@mui/material/Typography";
import { useEffect, useMemo, useState, useSyncExternalStore } from "react";
import { photoAddress, useDeletePhoto, usePhotos } from "../api/photos";
import { FileButton } from "../inputs/FileButton";
import { number } from "../shell/device";
import Dialog from "../shell/Dialog";
import { Panel } from "../shell/Panel";
import { momentHere } from "../shell/time";
import { sendPhotos } from "./sending";
import { smaller } from "./smaller";
import {
  keepPhoto,
  letGoOfPhoto,
  photosWaiting,
  readWaiting,
  watchWaiting,
  type Of,
  type WaitingPhoto,
} from "./waiting";

interface Shown {
  uid: string;
  taken_at: string;
  address: string;
  waiting: WaitingPhoto | null;
}

const isOf = (one: Of, other: Of) =>
  "flight" in one
    ? "flight" in other && one.flight === other.flight
    : "place" in other && one.place === other.place;

/** The photos that wait on this device, each with an address to show it by. */
function useWaiting(of: Of): Shown[] {
  const all = useSyncExternalStore(watchWaiting, photosWaiting);
  useEffect(() => void readWaiting(), []);
  const shown = useMemo(
    () =>
      all
        .filter((photo) => isOf(photo.of, of))
        .map((photo) => ({
          uid: photo.uid,
          taken_at: photo.taken_at,
          address: URL.createObjectURL(photo.data),
          waiting: photo,
        })),
    [all, of],
  );
  useEffect(() => () => shown.forEach(({ address }) => URL.revokeObjectURL(address)), [shown]);
  return shown;
}

/** Photos of a flight or of a place; a new one is kept on this device until the server has it. */
export function Photos({ of: given }: { of: Of }) {
  const key = JSON.stringify(given);
  const of = useMemo(() => JSON.parse(key) as Of, [key]);
  const kept = usePhotos(of);
  const waiting = useWaiting(of);
  const remove = useDeletePhoto(of);
  const [chosen, setChosen] = useState<string | null>(null);
  const [forgotten, setForgotten] = useState(false);
  const there = new Set(kept.data?.map(({ uid }) => uid));
  const all: Shown[] = [
    ...(kept.data ?? []).map((p) => ({ ...p, address: photoAddress(p.uid), waiting: null })),
    ...waiting.filter(({ uid }) => !there.has(uid)),
  ];
  // Looked at while it goes up, it is the server's from then on.
  const large = all.find(({ uid }) => uid === chosen);
  const close = () => setChosen(null);
  const refused = waiting.find((photo) => photo.waiting?.refused)?.waiting;
  const taken = async (file: File) => {
    const data = await smaller(file);
    const photo = { uid: number(), of, taken_at: new Date().toISOString(), data };
    setForgotten(!(await keepPhoto(photo)));
    if (await sendPhotos()) void kept.refetch();
  };
  return (
    <Panel title="Photos" hint={all.length > 0 ? String(all.length) : undefined}>
      {all.length > 0 && (
        <Box component="ul" sx={{ display: "flex", gap: 1, flexWrap: "wrap", p: 0, m: 0, mb: 1 }}>
          {all.map((photo) => (
            <Box component="li" key={photo.uid} sx={{ listStyle: "none" }}>
              <ButtonBase
                onClick={() => setChosen(photo.uid)}
                aria-label={`Photo of ${momentHere(photo.taken_at)}`}
                sx={{ borderRadius: "8px", overflow: "hidden", border: 1, borderColor: "divider" }}
              >
                <Box
                  component="img"
                  src={photo.address}
                  alt=""
                  loading="lazy"
                  sx={{ width: 104, height: 78, objectFit: "cover", display: "block" }}
                />
              </ButtonBase>
              {photo.waiting && (
                <Typography variant="body2" color="text.secondary">
                  {photo.waiting.refused ? "refused" : "on this device"}
                </Typography>
              )}
            </Box>
          ))}
        </Box>
      )}
      {kept.error && (
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
          What the server has can’t be shown now.
        </Typography>
      )}
      {refused && (
        <Alert severity="error" icon={false} sx={{ border: 1, mb: 1 }}>
          {refused.refused} The photo is kept here until you delete it.
        </Alert>
      )}
      {forgotten && (
        <Alert severity="warning" icon={false} sx={{ border: 1, mb: 1 }}>
          This browser has no room to keep it: leave this page open until it is saved.
        </Alert>
      )}
      <FileButton
        variant="outlined"
        words="Add a photo"
        accept="image/*"
        onFile={(file) => void taken(file)}
      />
      {large && (
        <Dialog open maxWidth="lg" onClose={close} aria-label="Photo">
          <DialogContent sx={{ p: 1 }}>
            <Box
              component="img"
              src={large.address}
              alt={`Photo of ${momentHere(large.taken_at)}`}
              sx={{ display: "block", maxWidth: "100%", maxHeight: "70vh" }}
            />
            {remove.error && (
              <Alert severity="error" icon={false} sx={{ border: 1, mt: 1 }}>
                {remove.error.message}
              </Alert>
            )}
          </DialogContent>
          <DialogActions>
            <DeleteButton
              onDelete={() => {
                if (large.waiting) {
                  void letGoOfPhoto(large.uid);
                  close();
                } else remove.mutate(large.uid, { onSuccess: close });
              }}
            />
            <Button onClick={close}>Close</Button>
          </DialogActions>
        </Dialog>
      )}
    </Panel>
  );
}

/** A photo that is deleted is gone: asked for twice. */
function DeleteButton({ onDelete }: { onDelete: () => void }) {
  const [sure, setSure] = useState(false);
  return sure ? (
    <Button color="error" variant="contained" onClick={onDelete}>
      Delete it for good
    </Button>
  ) : (
    <Button color="error" onClick={() => setSure(true)}>
      Delete
    </Button>
  );
}
