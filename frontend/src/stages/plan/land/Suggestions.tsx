import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Plan, Problem, Suggestion } from "../../../api/client";
import { useSuggestions } from "../../../api/places";
import { VERDICT_WORDS, VerdictMark } from "../../../shell/marks";
import { ProblemNote } from "../../../shell/notes";
import { useUnits } from "../../../shell/preferences";
import { written } from "../../../units/units";

/** Take-off points from which the same far end could be flown to: suggestions, with their reasons. */
export function Suggestions({ plan, replace }: { plan: Plan; replace: (plan: Plan) => void }) {
  const units = useUnits();
  const find = useSuggestions();
  const [sought, setSought] = useState<Plan | null>(null);
  const take = (s: Suggestion) =>
    replace({
      ...plan,
      site: {
        ...plan.site,
        latitude: Number(s.latitude.toFixed(6)),
        longitude: Number(s.longitude.toFixed(6)),
        elevation_m: s.elevation_m,
      },
      flight: { ...plan.flight, bearing_deg: s.bearing_deg, distance_m: s.distance_m },
    });
  return (
    <Box component="section" aria-label="Take-off points" sx={{ mt: 1 }}>
      <Button
        variant="outlined"
        disabled={find.isPending}
        onClick={() => {
          setSought(plan);
          find.mutate({ plan, units });
        }}
      >
        {find.isPending ? "Looking…" : "Find a take-off point"}
      </Button>
      {find.error && <ProblemNote problem={find.error as Problem} />}
      {find.data && (
        <>
          <Typography variant="body2" color="text.secondary" sx={{ mt: 0.5 }}>
            {find.data.length === 0
              ? `No take-off point within ${written(500, "length", units)} works for this far point. Choose another far point.`
              : "Suggestions for the same far point, by what is drawn here. Walk there and look before you trust one."}
            {sought !== plan && find.data.length > 0 && " The plan has changed since this search."}
          </Typography>
          <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
            {find.data.map((s) => (
              <Box component="li" key={`${s.latitude}${s.longitude}`} sx={{ my: 1 }}>
                <Box sx={{ display: "flex", alignItems: "center", gap: 1, flexWrap: "wrap" }}>
                  <VerdictMark verdict={s.verdict} size={24} />
                  <b>{VERDICT_WORDS[s.verdict]}</b>
                  <Button size="small" onClick={() => take(s)}>
                    Take off there
                  </Button>
                </Box>
                {s.reasons.join(" · ")}
              </Box>
            ))}
          </Box>
        </>
      )}
    </Box>
  );
}
