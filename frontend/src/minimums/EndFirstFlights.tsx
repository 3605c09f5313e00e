import Button from "@mui/material/Button";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import Typography from "@mui/material/Typography";
import type { DrillsNow } from "../api/client";
import { courseWords } from "../drills/words";
import Dialog from "../shell/Dialog";

/** First flights end before their course is done only by the pilot's word. */
export function EndFirstFlights({
  open,
  now,
  close,
  end,
}: {
  open: boolean;
  now: DrillsNow | undefined;
  close: () => void;
  end: () => void;
}) {
  const left = now?.drills.filter((d) => now.course.left.includes(d.key)).map((d) => d.name) ?? [];
  return (
    <Dialog open={open} onClose={close} aria-labelledby="end-first-flights">
      <DialogTitle id="end-first-flights">End first flights?</DialogTitle>
      <DialogContent>
        <Typography>
          {now ? courseWords(now) : "How far the course is can’t be seen just now."}
          {left.length > 0 && ` Next in it: ${left.join("; ")}.`}
        </Typography>
        <Typography sx={{ mt: 1 }}>
          Your ordinary minimums would be in force from now on: more wind, less reserve, higher and
          further out.
        </Typography>
      </DialogContent>
      <DialogActions>
        <Button onClick={close} variant="contained" sx={{ minHeight: 48 }}>
          Keep first flights
        </Button>
        <Button onClick={end} sx={{ minHeight: 48 }}>
          End them by my word
        </Button>
      </DialogActions>
    </Dialog>
  );
}
