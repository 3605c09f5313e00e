import Button, { type ButtonProps } from "@mui/material/Button";
import { useEffect, useRef, useState } from "react";

/** So long it is held [ms]: drops on a wet screen, and a sleeve that brushes it, do not. */
export const HOLD_MS = 500;

/** A button that a stray tap does not press: it is held for half a second, by finger or by key. */
export function HoldButton({
  done,
  children,
  sx,
  ...rest
}: Omit<ButtonProps, "onClick"> & { done: () => void }) {
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const [held, setHeld] = useState(false);
  const end = () => {
    clearTimeout(timer.current);
    timer.current = undefined;
    setHeld(false);
  };
  const begin = () => {
    if (timer.current !== undefined) return;
    setHeld(true);
    timer.current = setTimeout(() => {
      end();
      done();
    }, HOLD_MS);
  };
  useEffect(() => () => clearTimeout(timer.current), []);
  const keys = new Set(["Enter", " "]);
  return (
    <Button
      {...rest}
      disableRipple
      onPointerDown={begin}
      onPointerUp={end}
      onPointerLeave={end}
      onPointerCancel={end}
      onContextMenu={(event) => event.preventDefault()}
      onKeyDown={(event) => {
        if (!keys.has(event.key)) return;
        event.preventDefault();
        begin();
      }}
      onKeyUp={(event) => {
        if (!keys.has(event.key)) return;
        // Some browsers press a button only now.
        event.preventDefault();
        end();
      }}
      onClick={(event) => {
        // What reads the screen aloud presses without finger or key, and cannot hold.
        if (event.detail === 0 && !held) done();
      }}
      sx={{
        touchAction: "none",
        userSelect: "none",
        backgroundImage: "linear-gradient(currentColor, currentColor)",
        backgroundRepeat: "no-repeat",
        backgroundPosition: "0 100%",
        backgroundSize: held ? "100% 6px" : "0% 6px",
        transition: held ? `background-size ${HOLD_MS}ms linear` : "none",
        ...sx,
      }}
    >
      {children}
    </Button>
  );
}
