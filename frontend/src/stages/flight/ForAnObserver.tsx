import Button from "@mui/material/Button";
import { lazy, Suspense, useState } from "react";

const OnAnotherDevice = lazy(() =>
  import("../../access/OnAnotherDevice").then((m) => ({ default: m.OnAnotherDevice })),
);

/** A page of its own for who stands beside the pilot. */
export function ForAnObserver({ sessionId }: { sessionId: number }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button fullWidth sx={{ minHeight: 48 }} onClick={() => setOpen(true)}>
        Page for an observer
      </Button>
      {open && (
        <Suspense>
          <OnAnotherDevice
            title="For an observer"
            page={`/observer/${sessionId}`}
            onClose={() => setOpen(false)}
          >
            Where to look, the flight time and the alerts, large and read only, on the device of
            whoever watches beside you.
          </OnAnotherDevice>
        </Suspense>
      )}
    </>
  );
}
