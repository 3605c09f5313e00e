import Box from "@mui/material/Box";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { useUnits } from "../shell/preferences";
import { written } from "../units/units";
import type { Ended } from "./flight";
import { ACTS, type Choice, type Review } from "./review";
import type { HomeFlight } from "./tables";
import { ACT_TOLD, ACT_WORDS, clock, ENDS, endWords } from "./words";

type How = "alone" | "best";

/** Each choice at each moment, by what it would have led to: a mark and a colour, and in words when pointed at. */
export function Choices({ home, review }: { home: HomeFlight; review: Review }) {
  const units = useUnits();
  const [at, setAt] = useState<Choice | null>(review.best);
  const [how, setHow] = useState<How>("alone");
  const far = (m: number) => written(m, "length", units);
  const by = new Map(review.choices.map((c) => [`${c.at_s}${c.act}`, c]));
  const words = (c: Choice) => {
    const follows =
      how === "alone" ? ["and nothing more"] : c.then.map((a) => `then ${ACT_TOLD[a.act]}`);
    const end = endWords(how === "alone" ? c.alone : c.ended, far);
    return `${ACT_WORDS[c.act]} at ${clock(c.at_s)}${follows.map((text) => `, ${text}`).join("")}: ${end}`;
  };
  return (
    <>
      <ToggleButtonGroup
        exclusive
        aria-label="What follows"
        value={how}
        onChange={(_, value: How | null) => value && setHow(value)}
        sx={{ mb: 1 }}
      >
        <ToggleButton value="alone" sx={{ minHeight: 44 }}>
          And nothing more
        </ToggleButton>
        <ToggleButton value="best" sx={{ minHeight: 44 }}>
          With the best that could follow
        </ToggleButton>
      </ToggleButtonGroup>
      <Box sx={{ overflowX: "auto" }} tabIndex={0} role="region" aria-label="Choices by moment">
        <Box component="table" sx={{ borderCollapse: "separate", borderSpacing: 2 }}>
          <thead>
            <tr>
              <Box component="th" scope="col" sx={{ textAlign: "left", pr: 1 }}>
                At
              </Box>
              {review.moments.map((moment) => (
                <Box
                  component="th"
                  scope="col"
                  key={moment}
                  sx={{ fontWeight: 400, fontSize: "0.8rem", minWidth: 48 }}
                >
                  {clock(moment)}
                </Box>
              ))}
            </tr>
          </thead>
          <tbody>
            {ACTS.map((act) => (
              <tr key={act}>
                <Box
                  component="th"
                  scope="row"
                  sx={{ textAlign: "left", fontWeight: 400, pr: 1, whiteSpace: "nowrap" }}
                >
                  {ACT_WORDS[act]}
                </Box>
                {review.moments.map((moment) => {
                  const choice = by.get(`${moment}${act}`)!;
                  return (
                    <Cell
                      key={moment}
                      ended={how === "alone" ? choice.alone : choice.ended}
                      reserve_pct={home.reserve_pct}
                      words={words(choice)}
                      chosen={choice === at}
                      onClick={() => setAt(choice)}
                    />
                  );
                })}
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
      <Typography role="status" sx={{ minHeight: 48, mt: 0.5 }}>
        {at ? `${words(at)}.` : "Choose a mark for its words."}
      </Typography>
      <Typography variant="body2" color="text.secondary">
        ● home with your reserve &nbsp; ◐ home under it &nbsp; ▼ down away &nbsp; ✕ lost or somebody
        hurt
      </Typography>
    </>
  );
}

const MARK = { good: "●", care: "▼", bad: "✕" };
const TONE = { good: "var(--launch)", care: "var(--care)", bad: "var(--stay)" };

function Cell({
  ended,
  reserve_pct,
  words,
  chosen,
  onClick,
}: {
  ended: Ended;
  reserve_pct: number;
  words: string;
  chosen: boolean;
  onClick: () => void;
}) {
  const { mark } = ENDS[ended.end];
  const under = mark === "good" && ended.charge_pct < reserve_pct;
  return (
    <td>
      <Box
        component="button"
        onClick={onClick}
        aria-label={words}
        aria-pressed={chosen}
        sx={{
          width: "100%",
          minWidth: 48,
          height: 48,
          border: 2,
          borderColor: chosen ? "text.primary" : "transparent",
          borderRadius: "6px",
          bgcolor: under ? TONE.care : TONE[mark],
          color: "var(--onVerdict)",
          fontSize: "0.95rem",
          cursor: "pointer",
          p: 0,
        }}
      >
        {under ? "◐" : MARK[mark]}
      </Box>
    </td>
  );
}
