import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "../shell/Dialog";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useAirborne } from "../api/flights";
import { usePreferences } from "../shell/preferences";
import { inTheAir } from "./record";

/** Ends an address that opens the emergency steps. */
export const EMERGENCY = "#emergency";

/** What to do when something goes wrong: one touch from anywhere in a session, with this flight's numbers. */
export function Emergencies({ sessionId }: { sessionId: number }) {
  const { units } = usePreferences();
  const navigate = useNavigate();
  // Asked for as soon as a session is open, so that it is here when nothing else is.
  const { data } = useAirborne(sessionId, units);
  // A shortcut of the phone opens it at once.
  const [open, setOpen] = useState(() => window.location.hash === EMERGENCY);
  const [at, setAt] = useState<string | null>(null);
  const cards = (open && inTheAir(sessionId)?.plan.emergencies) || data?.emergencies || [];
  const card = cards.find((c) => c.key === at);
  const close = () => {
    if (window.location.hash === EMERGENCY) void navigate({ hash: "" }, { replace: true });
    setOpen(false);
    setAt(null);
  };
  return (
    <>
      <Button
        variant="contained"
        onClick={() => setOpen(true)}
        sx={{
          minHeight: 44,
          mt: { md: 2 },
          px: 1.5,
          bgcolor: "var(--stay)",
          color: "var(--onVerdict)",
          fontWeight: 800,
          "&:hover": { bgcolor: "var(--stay)" },
        }}
      >
        ◆ Emergency
      </Button>
      <Dialog fullScreen open={open} onClose={close} aria-labelledby="emergency-title">
        <Box sx={{ p: { xs: 1.5, md: 3 }, maxWidth: 900, width: "100%", mx: "auto" }}>
          <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1.5 }}>
            <Typography
              id="emergency-title"
              component="h1"
              sx={{
                flex: 1,
                fontSize: card ? "1.9rem" : "1.5rem",
                fontWeight: 850,
                lineHeight: 1.1,
              }}
            >
              {card ? card.title : "What is happening?"}
            </Typography>
            {card && (
              <Button sx={{ minHeight: 52 }} variant="outlined" onClick={() => setAt(null)}>
                Others
              </Button>
            )}
            <Button sx={{ minHeight: 52 }} variant="outlined" onClick={close}>
              Close
            </Button>
          </Box>
          {card ? (
            <>
              <Box component="ol" sx={{ m: 0, pl: 3.5, fontSize: "1.5rem", fontWeight: 650 }}>
                {card.steps.map((step) => (
                  <Box component="li" key={step} sx={{ mb: 1.25, lineHeight: 1.2 }}>
                    {step}
                  </Box>
                ))}
              </Box>
              {card.numbers.length > 0 && (
                <Box
                  component="section"
                  aria-label="This flight"
                  sx={{ borderTop: 2, borderColor: "divider", mt: 2, pt: 1.5 }}
                >
                  {card.numbers.map((line) => (
                    <Typography key={line} sx={{ fontSize: "1.2rem", mb: 0.5 }}>
                      {line}
                    </Typography>
                  ))}
                </Box>
              )}
            </>
          ) : (
            <Box
              sx={{
                display: "grid",
                gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" },
                gap: 0.75,
              }}
            >
              {cards.map((c) => (
                <Button
                  key={c.key}
                  variant="outlined"
                  onClick={() => setAt(c.key)}
                  sx={{
                    minHeight: 52,
                    justifyContent: "flex-start",
                    textAlign: "left",
                    fontSize: "1.1rem",
                    fontWeight: 700,
                  }}
                >
                  {c.title}
                </Button>
              ))}
              {cards.length === 0 && (
                <Typography>
                  Nothing saved on this device yet. Open the session once while the server is
                  available.
                </Typography>
              )}
            </Box>
          )}
          <Typography variant="body2" color="text.secondary" sx={{ mt: 2 }}>
            Common practice, not a rule. The aircraft’s manual and local rules come first.
          </Typography>
        </Box>
      </Dialog>
    </>
  );
}
