import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import { allowTones, sound, WORDS } from "../../flight/calling";
import type { Call } from "../../flight/clock";
import Dialog from "../../shell/Dialog";
import { askPermission, permission } from "../../shell/notify";

const ALERTS = Object.keys(WORDS) as Call[];
const EACH_MS = 2_500;

const AS_NOTIFICATION = {
  granted: "While Lark is not on the screen, alerts come as notifications too.",
  denied: "Notifications are blocked for Lark in this browser: keep Lark on the screen in flight.",
  none: "This browser has no notifications: keep Lark on the screen in flight.",
};

/** The alerts of the flight clock as they will sound, before anything is in the air. */
export function TryAlerts({ onClose }: { onClose: () => void }) {
  const [at, setAt] = useState<Call | null>(null);
  const [all, setAll] = useState(false);
  const [allowed, setAllowed] = useState(permission);
  useEffect(() => {
    if (!all || at === null) return;
    const timer = setTimeout(() => {
      const next = ALERTS[ALERTS.indexOf(at) + 1];
      if (next) {
        sound(next);
        setAt(next);
      } else {
        setAll(false);
        setAt(null);
      }
    }, EACH_MS);
    return () => clearTimeout(timer);
  }, [all, at]);
  const play = (call: Call, others: boolean) => {
    allowTones();
    sound(call);
    setAt(call);
    setAll(others);
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="try-alerts">
      <DialogTitle id="try-alerts">Try the alerts</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 1 }}>
          Turn the volume up and put the phone where it will be in flight. Can you hear each of
          them?{" "}
          {"vibrate" in navigator
            ? "Where the phone can, it vibrates too."
            : "This device doesn’t vibrate."}
        </Typography>
        <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {ALERTS.map((call) => (
            <Box component="li" key={call} sx={{ borderTop: 1, borderColor: "divider" }}>
              <Button
                fullWidth
                aria-pressed={at === call}
                onClick={() => play(call, false)}
                sx={{
                  minHeight: 56,
                  justifyContent: "flex-start",
                  textAlign: "left",
                  bgcolor: at === call ? "var(--care)" : undefined,
                  color: at === call ? "var(--onVerdict)" : undefined,
                }}
              >
                {WORDS[call].large}
              </Button>
            </Box>
          ))}
        </Box>
        {allowed === "default" ? (
          <Button sx={{ mt: 1 }} onClick={() => void askPermission().then(setAllowed)}>
            Also as notifications
          </Button>
        ) : (
          <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
            {AS_NOTIFICATION[allowed]}
          </Typography>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
        <Button variant="contained" disabled={all} onClick={() => play(ALERTS[0]!, true)}>
          Play all
        </Button>
      </DialogActions>
    </Dialog>
  );
}
