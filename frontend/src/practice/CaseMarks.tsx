import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { usePractice, type Marked, type Posed } from "../api/practice";
import { Panel } from "../shell/Panel";
import { useUnits } from "../shell/preferences";
import { Seal } from "../shell/Seal";
import { useNow } from "../shell/useNow";
import { Board } from "../stages/plan/Board";
import { written } from "../units/units";
import { dueIn, GRADES, WORDS } from "./words";

/** What an answer was worth, and what decided, with the working. */
export function CaseMarks({ marked, posed }: { marked: Marked; posed: Posed }) {
  const units = useUnits();
  const now = useNow();
  const labels = new Map(posed.choices.map((choice) => [choice.check, choice.label]));
  const rows: [string, string, number][] = [
    [
      `You said: ${WORDS[marked.word].toLowerCase()}`,
      marked.right ? "a word that fits" : "a word that doesn’t fit",
      marked.word_cost,
    ],
    ...(marked.right
      ? []
      : [
          [`You were ${marked.sure_pct}% sure of it`, "", marked.sure_cost] as [
            string,
            string,
            number,
          ],
        ]),
    [
      `Tightest: ${labels.get(marked.deciding) ?? marked.deciding}`,
      marked.tightest_cost === 0
        ? "as you said"
        : `you said ${labels.get(marked.tightest)?.toLowerCase() ?? marked.tightest}`,
      marked.tightest_cost,
    ],
  ];
  if (marked.turn_back_pct !== null)
    rows.push([
      `Turn back at ${Math.ceil(marked.turn_back_pct)}%`,
      marked.turn_back_cost > 0 ? "your number was off" : "",
      marked.turn_back_cost,
    ]);
  if (marked.return_height_m !== null)
    rows.push([
      `Lowest return height ${written(marked.return_height_m, "length", units)}`,
      marked.return_height_cost > 0 ? "your number was off" : "",
      marked.return_height_cost,
    ]);
  return (
    <>
      <Box sx={{ mb: 1.25 }}>
        <Seal plan={marked.plan} result={marked.result} asRecorded={marked.plan.takeoff_at} />
      </Box>
      <Panel
        title={GRADES[marked.grade]}
        hint={marked.due ? `again ${dueIn(marked.due, now)}` : "marked on this device"}
      >
        <Typography sx={{ fontSize: "1.25rem", fontWeight: 700, mb: 0.5 }}>
          {marked.teaches}
        </Typography>
        <Box component="ul" aria-label="Marks" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {rows.map(([what, how, cost]) => (
            <Box component="li" key={what} sx={{ display: "flex", gap: 1 }}>
              <Typography sx={{ flex: 1, minWidth: 0 }}>
                {what}
                {how && <>, {how}</>}
              </Typography>
              <Typography sx={{ fontVariantNumeric: "tabular-nums" }}>
                {cost > 0 ? `costs ${cost.toFixed(1)}` : "✓"}
              </Typography>
            </Box>
          ))}
        </Box>
        <Next />
      </Panel>
      <Panel title="What decided" hint="every check, the tightest first">
        <Board result={marked.result} />
      </Panel>
    </>
  );
}

/** What to do next today. */
function Next() {
  const room = usePractice();
  const [next] = room.data?.today ?? [];
  const family = room.data?.families.find(({ key }) => key === next?.family);
  return (
    <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1 }}>
      {family && (
        <Button
          component={Link}
          to={`/practice/${family.key}/${family.seed}`}
          variant="contained"
          sx={{ minHeight: 48 }}
        >
          Next: {family.name}
        </Button>
      )}
      <Button component={Link} to="/practice" variant="outlined" sx={{ minHeight: 48 }}>
        That’s enough
      </Button>
    </Box>
  );
}
