import Box from "@mui/material/Box";
import Paper from "@mui/material/Paper";
import Typography from "@mui/material/Typography";
import { useEffect } from "react";
import type { Problem, Verdict } from "../api/client";
import { useCheckCatalogue } from "../api/queries";
import { VERDICT_WORDS, VerdictMark } from "../frame/marks";
import { ProblemNote, Waiting } from "../frame/notes";

const MEANING: Record<Verdict, string> = {
  launch: "Every check that was made passes. The tightest one still shows: watch it.",
  care: "Nothing fails, but something is near a limit or not as it should be.",
  stay: "At least one check fails. Change the plan, or stay down.",
  unknown: "Something that matters is not known, so nothing can be said yet.",
};

/** What a verdict is and is not, and what every check rests on. */
export function HelpPage() {
  const checks = useCheckCatalogue();
  useEffect(() => {
    document.title = "Help and sources · Lark";
  }, []);
  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 860 }}>
      <Typography variant="h1">Help and sources</Typography>
      <Typography variant="h2" sx={{ mt: 2 }}>
        What a verdict is not
      </Typography>
      <Typography sx={{ my: 1 }}>
        Lark never says that a flight is allowed, or that nothing will happen. It shows what the
        numbers say and what was not checked. The rules of the place, the land owner, the aircraft’s
        own manual and your aviation authority decide; where they are stricter, they count. Numbers
        from a spec sheet are the maker’s, a forecast is a forecast, and a percentage on a pack is
        an estimate. You are the pilot: when it does not look right, stay down.
      </Typography>
      <Typography>
        Lark does not check: people, animals and aircraft around you, zones and obstacles that
        nobody drew or brought in, local prohibitions, the state of the airframe and propellers,
        insurance, registration, or your own fitness. Judge those yourself.
      </Typography>
      <Typography variant="h2" sx={{ mt: 2 }}>
        The four verdicts
      </Typography>
      <Box component="dl" sx={{ m: 0 }}>
        {(Object.keys(MEANING) as Verdict[]).map((v) => (
          <Box key={v} sx={{ display: "flex", gap: 1.5, alignItems: "center", my: 1 }}>
            <VerdictMark verdict={v} size={36} />
            <div>
              <Box component="dt" sx={{ fontWeight: 750 }}>
                {VERDICT_WORDS[v]}
              </Box>
              <Box component="dd" sx={{ m: 0 }}>
                {MEANING[v]}
              </Box>
            </div>
          </Box>
        ))}
      </Box>
      <Typography variant="h2" sx={{ mt: 2 }}>
        How to read the board
      </Typography>
      <Typography sx={{ my: 1 }}>
        Every bar is the share of one limit that is used. All limits end at the same wall. A bar
        that breaks through the wall is over its limit; open it for the numbers it was made from.
        Heights are above the take-off point. A wind direction is where the wind comes from. A
        fading end is how far wind, consumption and charge reading may be off (one standard
        deviation: 20 % of a forecast wind, 10 % of a measured one, 8 % of consumption, 3 points of
        charge; common practice); nine in ten flights stay within it. The verdict does not use it.
        Satellites and home point can only be known beside the powered aircraft: until one of them
        is, they are asked and do not count.
      </Typography>
      <Typography variant="h2" sx={{ mt: 2 }}>
        How a place is reckoned with
      </Typography>
      <Typography sx={{ my: 1 }}>
        What is drawn counts ten metres wider than it is, because positions are a few metres off
        (common practice). A return may start anywhere within the flight’s distance, so everything
        within it must be cleared. A hole in the terrain is unknown, not level. Without a terrain
        the land is taken as level with the take-off point. The radio’s way is reckoned over the
        ground and everything drawn on it, by Deygout’s construction of up to three edges (1966,
        from memory), or through the trees where that is less; it errs towards more loss. Distances
        and bearings are geodesics on WGS 84. Zones are read from GeoJSON, KML and the European
        geographical-zones format (ED-269, from memory); a zone whose rules are not understood is
        taken as closed.
      </Typography>
      <Typography variant="h2" sx={{ mt: 2, mb: 1 }}>
        Every check and its source
      </Typography>
      {checks.isPending && <Waiting what="the checks" />}
      {checks.error && (
        <ProblemNote problem={checks.error as Problem} again={() => void checks.refetch()} />
      )}
      {checks.data && (
        <Paper
          component="dl"
          variant="outlined"
          sx={{ m: 0, borderRadius: "14px", px: 2, py: 0.5 }}
        >
          {checks.data.map((c) => (
            <Box key={c.id} sx={{ py: 1, "& + &": { borderTop: 1, borderColor: "divider" } }}>
              <Box component="dt" sx={{ fontWeight: 750 }}>
                {c.label}{" "}
                <Typography component="span" variant="body2" color="text.secondary">
                  {c.id}
                </Typography>
              </Box>
              <Box component="dd" sx={{ m: 0 }}>
                {c.decides}
                <Typography variant="body2" color="text.secondary">
                  {c.source}
                </Typography>
              </Box>
            </Box>
          ))}
        </Paper>
      )}
    </Box>
  );
}
