import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Slider from "@mui/material/Slider";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import type { Plan, Problem, Section as SectionData, Survey } from "../../../api/client";
import { useSection } from "../../../api/places";
import { Section } from "../../../drawings/Section";
import type { Change } from "../../../editing/change";
import { movesIn, sectionUpto } from "./cutting";
import { ProblemNote } from "../../../shell/notes";
import { bearing } from "../../../units/units";

/** The cut along a bearing with everything that the checks hold the flight against, typed things included. */
export function Cut({
  plan,
  survey,
  onCut,
  change,
}: {
  plan: Plan;
  survey?: Survey;
  onCut?: (section: SectionData | undefined) => void;
  change: Change<Plan>;
}) {
  const [turned, setTurned] = useState<number | null>(null);
  const { flight } = plan;
  const towards = turned ?? flight.bearing_deg;
  const moves = movesIn(towards, plan, survey);
  const section = useSection(plan, towards, sectionUpto(plan, moves));
  useEffect(() => onCut?.(section.data), [onCut, section.data]);
  return (
    <>
      {section.error && <ProblemNote problem={section.error as Problem} />}
      <Box sx={{ display: "flex", alignItems: "center", gap: 1.5, mt: 1 }}>
        <Typography component="h3" sx={{ fontWeight: 700, whiteSpace: "nowrap" }}>
          Side view towards {bearing(towards)}
        </Typography>
        <Slider
          size="small"
          aria-label="Side view towards"
          value={towards}
          min={0}
          max={359}
          onChange={(_, v) => setTurned(v as number)}
        />
        {turned !== null && (
          <Button size="small" sx={{ whiteSpace: "nowrap" }} onClick={() => setTurned(null)}>
            Along the flight
          </Button>
        )}
      </Box>
      {section.data && (
        <Section
          plan={plan}
          section={section.data}
          along={turned === null}
          moves={moves}
          onReturnHeight={(v) => change(["settings", "rth_altitude_m"], v)}
          onHeight={(v) => change(["flight", "height_m"], v)}
        />
      )}
    </>
  );
}
