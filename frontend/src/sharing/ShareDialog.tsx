import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Problem } from "../api/client";
import { shareAddress, useGiven, type Given, type What } from "../api/sharing";
import Dialog from "../shell/Dialog";
import { ProblemNote, Waiting } from "../shell/notes";
import { sizeWritten } from "../units/units";
import { inARow } from "./words";

/** A session or a place for another pilot: as one file, and as codes for a camera. */
export function ShareDialog({
  what,
  name,
  flush,
  onClose,
}: {
  what: What;
  name: string;
  flush: () => Promise<unknown>;
  onClose: () => void;
}) {
  const given = useGiven(what, flush);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="share">
      <DialogTitle id="share">Share “{name}”</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 1 }}>
          {what.kind === "session"
            ? "The plan with its place and forecast, your minimums and what you measured. Not your preflight ticks, decisions and flights."
            : "The place with everything that is drawn in it."}{" "}
          The other pilot looks at it in their own Lark, under Sessions, before it is taken.
        </Typography>
        {given.error && (
          <ProblemNote problem={given.error as Problem} again={() => void given.refetch()} />
        )}
        {given.isPending && <Waiting what="what is given" />}
        {given.data && <Forms what={what} given={given.data} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

function Forms({ what, given }: { what: What; given: Given }) {
  const [sent, setSent] = useState<string | null>(null);
  const address = `${shareAddress(what)}.gz`;
  const send = async () => {
    try {
      const answer = await fetch(address);
      const named = /filename="([^"]+)"/.exec(answer.headers.get("Content-Disposition") ?? "");
      const file = new File([await answer.blob()], named?.[1] ?? "shared.lark.gz", {
        type: "application/gzip",
      });
      if (!navigator.canShare?.({ files: [file] }))
        return setSent("This browser can’t send files: save it, and send it as you like.");
      await navigator.share({ files: [file] });
    } catch (cause) {
      if ((cause as Error).name !== "AbortError")
        setSent("It couldn’t be sent. Save it, and send it as you like.");
    }
  };
  return (
    <>
      <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center" }}>
        <Button component="a" href={address} download variant="contained" sx={{ minHeight: 48 }}>
          Save the file
        </Button>
        {"share" in navigator && (
          <Button variant="outlined" sx={{ minHeight: 48 }} onClick={() => void send()}>
            Send the file
          </Button>
        )}
        <Typography variant="body2" color="text.secondary">
          {sizeWritten(given.bytes)}
          {given.left_out.length > 0 && `, without its ${inARow(given.left_out)}`}
        </Typography>
      </Box>
      {sent && (
        <Alert severity="warning" icon={false} sx={{ border: 1, mt: 1 }}>
          {sent}
        </Alert>
      )}
      {given.codes.length > 0 ? (
        <Codes given={given} />
      ) : (
        <Typography sx={{ mt: 2 }}>It is too large for codes: give the file.</Typography>
      )}
      {what.kind === "session" && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 2 }}>
          For another program:{" "}
          <a href={`/api/sessions/${what.id}/plan.json`} download>
            Export plan
          </a>{" "}
          (JSON).
        </Typography>
      )}
    </>
  );
}

/** The codes, one after another as the other pilot is ready. */
function Codes({ given }: { given: Given }) {
  const [at, setAt] = useState(0);
  const count = given.codes.length;
  const shown = given.codes[at]!;
  return (
    <Box component="section" aria-label="Codes for a camera" sx={{ mt: 2 }}>
      <Typography variant="h2">For the other pilot’s camera</Typography>
      {given.left_out_of_codes.length > 0 && (
        <Typography variant="body2">
          Without its {inARow(given.left_out_of_codes)}: only the file holds that.
        </Typography>
      )}
      <Box
        component="img"
        src={shown.picture}
        alt={`Code ${at + 1} of ${count}`}
        sx={{
          display: "block",
          width: "min(100%, 380px, 42vh)",
          mx: "auto",
          my: 1,
          borderRadius: "8px",
        }}
      />
      {count > 1 && (
        <Box sx={{ display: "flex", alignItems: "center", justifyContent: "center", gap: 1 }}>
          <Button
            variant="outlined"
            sx={{ minHeight: 48 }}
            disabled={at === 0}
            onClick={() => setAt(at - 1)}
          >
            Back
          </Button>
          <Typography role="status">
            {at + 1} of {count}
          </Typography>
          <Button
            variant="outlined"
            sx={{ minHeight: 48 }}
            disabled={at === count - 1}
            onClick={() => setAt(at + 1)}
          >
            Next code
          </Button>
        </Box>
      )}
    </Box>
  );
}
