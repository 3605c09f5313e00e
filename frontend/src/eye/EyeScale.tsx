import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Slider from "@mui/material/Slider";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Panel } from "../shell/Panel";
import { keepScale } from "./kept";
import { CARD_MM } from "./staircase";

/** What a browser takes a millimetre for, where nobody has set it [CSS px]. */
const USUAL = 96 / 25.4;
const [LEAST, MOST] = [2, 9];

/** The screen's scale, by something of a known size that is held against it. */
export function EyeScale({ begin, done }: { begin: number | null; done: () => void }) {
  const [px, setPx] = useState(begin ?? USUAL);
  const [by, setBy] = useState<"card" | "coin">("card");
  const [coin, setCoin] = useState("");
  const mm = Number(coin.replace(",", "."));
  const coinFits = mm >= 10 && mm <= 50;
  const ready = by === "card" || coinFits;
  return (
    <Panel title="How large is this screen?" hint="once for each screen">
      <Typography>
        Hold a bank card or a coin flat against the screen, and make the shape exactly as large.
      </Typography>
      <ToggleButtonGroup
        exclusive
        aria-label="What you hold against it"
        value={by}
        onChange={(_, value: "card" | "coin" | null) => value && setBy(value)}
        sx={{ my: 1 }}
      >
        <ToggleButton value="card" sx={{ minHeight: 48 }}>
          Bank card
        </ToggleButton>
        <ToggleButton value="coin" sx={{ minHeight: 48 }}>
          Coin
        </ToggleButton>
      </ToggleButtonGroup>
      {by === "coin" && (
        <TextField
          label="Diameter of the coin"
          value={coin}
          onChange={(e) => setCoin(e.target.value)}
          error={coin !== "" && !coinFits}
          helperText={coin !== "" && !coinFits ? "10 to 50 mm" : "in mm, as its mint gives it"}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
          sx={{ display: "block", mb: 1 }}
        />
      )}
      <Slider
        aria-label="Size of the shape"
        value={px}
        min={LEAST}
        max={MOST}
        step={0.01}
        onChange={(_, value) => setPx(value)}
        sx={{ maxWidth: 420, display: "block" }}
      />
      <Box sx={{ display: "flex", gap: 1, mb: 1 }}>
        {[-0.02, 0.02].map((by_) => (
          <Button
            key={by_}
            variant="outlined"
            sx={{ minHeight: 48, minWidth: 96 }}
            onClick={() => setPx((now) => Math.min(Math.max(now + by_, LEAST), MOST))}
          >
            {by_ < 0 ? "Smaller" : "Larger"}
          </Button>
        ))}
      </Box>
      <Box sx={{ overflow: "hidden" }}>
        {by === "card" ? (
          // On its narrow side: as wide as a phone it would not fit.
          <Box
            role="img"
            aria-label="The card"
            sx={{
              width: CARD_MM.short * px,
              height: CARD_MM.long * px,
              borderRadius: `${3.2 * px}px`,
              border: 2,
              bgcolor: "action.hover",
            }}
          />
        ) : (
          coinFits && (
            <Box
              role="img"
              aria-label="The coin"
              sx={{
                width: mm * px,
                height: mm * px,
                borderRadius: "50%",
                border: 2,
                bgcolor: "action.hover",
              }}
            />
          )
        )}
      </Box>
      <Button
        variant="contained"
        disabled={!ready}
        sx={{ minHeight: 56, mt: 1 }}
        onClick={() => {
          keepScale(px);
          done();
        }}
      >
        It is as large
      </Button>
    </Panel>
  );
}
