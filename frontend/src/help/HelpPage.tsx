import Box from "@mui/material/Box";
import Paper from "@mui/material/Paper";
import Typography from "@mui/material/Typography";
import { useEffect } from "react";
import type { Problem, Verdict } from "../api/client";
import { useCheckCatalogue } from "../api/queries";
import { VERDICT_WORDS, VerdictMark } from "../shell/marks";
import { ProblemNote, Waiting } from "../shell/notes";

const MEANING: Record<Verdict, string> = {
  launch: "Every check Lark could make is within limits. The closest one is still shown: watch it.",
  care: "Nothing is outside its limit, but something is close to one or needs attention.",
  stay: "At least one check fails. Change the plan, or don’t launch.",
  unknown: "Something important is missing, so Lark can’t give a verdict yet.",
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
        from a spec sheet are the maker’s, a forecast is a forecast, and a percentage on a battery
        is an estimate. You are the pilot: when it does not look right, don’t launch.
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
          <Box
            key={v}
            sx={{
              display: "grid",
              gridTemplateColumns: "36px minmax(0,1fr)",
              columnGap: 1.5,
              alignItems: "center",
              my: 1,
            }}
          >
            <Box component="dt" sx={{ fontWeight: 750, display: "contents" }}>
              <VerdictMark verdict={v} size={36} />
              <span>{VERDICT_WORDS[v]}</span>
            </Box>
            <Box component="dd" sx={{ m: 0, gridColumn: 2 }}>
              {MEANING[v]}
            </Box>
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
        deviation: 20% of a forecast wind, 10% of a measured one, 8% of consumption, 3 points of
        charge; common practice); nine in ten flights stay within it. The verdict does not use it.
        Satellites and home point can only be known beside the powered aircraft: until one of them
        is, they are asked and do not count.
      </Typography>
      <Typography variant="h2" sx={{ mt: 2 }}>
        What nobody has said
      </Typography>
      <Typography sx={{ my: 1 }}>
        A new session begins with figures for weather and charge, so that there is something to look
        at. They are marked as assumed. Nothing passes by them: where the worst that is plausible (a
        strong breeze from either side, −15 or 40 °C, fog, heavy rain, Kp 7, a battery at 40%; all
        of these assumed) would be judged worse, the check is not known and asks. Type the figure,
        measure it, take it from a forecast, or confirm it as it is shown. A copied session asks
        again for all that belongs to its day.
      </Typography>
      <Typography variant="h2" sx={{ mt: 2 }}>
        How Lark uses a place
      </Typography>
      <Typography sx={{ my: 1 }}>
        What is drawn counts ten metres wider than it is, because positions are a few metres off
        (common practice). A return may start anywhere within the flight’s distance, so everything
        within it must be cleared. A hole in the terrain is unknown, not level. Without a terrain
        the land is taken as level with the take-off point. The radio’s way is worked out over the
        ground and everything drawn on it, by Deygout’s construction of up to three edges (1966,
        from memory), or through the trees where that is less; it errs towards more loss. Distances
        and bearings are geodesics on WGS 84. Zones are read from GeoJSON, KML and the European
        geographical-zones format (ED-269, from memory); a zone whose rules are not understood is
        taken as closed.
      </Typography>
      <Typography variant="h2" sx={{ mt: 2 }}>
        How the time before leaving is worked out
      </Typography>
      <Typography sx={{ my: 1 }}>
        A forecast is kept with its source and its age; once it is older than your minimum, the
        check of its age is not known. A launch window is a row of half hours in which the whole
        check leaves a launch open. Fog, rain, visibility and Kp between two hours of a forecast are
        taken from the worse one.
      </Typography>
      <Typography sx={{ my: 1 }}>
        A charged battery is taken to fall to about 55% between the fifth and the seventh day, and
        below that to lose 2% a month at 20 °C, twice as much for every 10 °C more. A battery takes
        the charger’s power, but no more than its own greatest (its energy in an hour where the
        sheet gives none), above 80% falling to a fifth of that, and a tenth is lost; a power bank
        gives 0.85 of what it holds. Storage is 3.8 V a cell. These, the intervals of maintenance
        and the packing list are common practice, without a published source; your manuals go before
        them.
      </Typography>
      <Typography sx={{ my: 1 }}>
        Subjects are shared out exactly, for up to ten: as many as possible, then with the fewest
        batteries, then with the fewest starts downwind, then soonest done. Each flight keeps the
        greatest reserve that any subject asks for, in the weather of the take-off, and has each
        subject’s light from take-off to landing. A battery under 60% starts no flight.
      </Typography>
      <Typography variant="h2" sx={{ mt: 2 }}>
        How the time on site is worked out
      </Typography>
      <Typography sx={{ my: 1 }}>
        The site survey, the gates of the preflight and what is wanted of their values are common
        practice, made for the session; the aircraft’s manual goes before them. What an aircraft
        says over MAVLink, and a wind meter over NMEA 0183, is read and never answered: Lark sends
        an aircraft nothing. Broken packets are dropped and counted; after three seconds without a
        word nothing is shown as now. A reading by meter is the mean of half a minute.
      </Typography>
      <Typography sx={{ my: 1 }}>
        The pocket card’s table holds the charge to turn back at: your reserve, and the climb, the
        way home straight against a wind of that speed, the descent and the landing.
      </Typography>
      <Typography variant="h2" sx={{ mt: 2 }}>
        How the flight clock and the logbook work
      </Typography>
      <Typography sx={{ my: 1 }}>
        The turn-back is the charge to land with and what the way home costs from where the aircraft
        is, in the wind that was planned with. What you read goes before what was predicted, and the
        worse of the two counts, unless you ask for the measured one. The band around the prediction
        holds nine flights in ten, with the spreads of your minimums. The clock keeps on while this
        device sleeps, is reloaded, or has its clock set; where these disagree, the longer time
        counts. The clock gives alerts; it doesn’t fly. Watch the aircraft.
      </Typography>
      <Typography>
        The wind of a track is a circle through its ground speeds, told only when the headings go
        round far enough, with an interval that holds it nineteen times in twenty. What the logbook
        teaches is the middle of what flights cost against what was planned for them, fresh ones
        weighing more (half as much after 120 days); nothing of it counts before you say so. How
        long gear stays in its bag: a time constant of 40 minutes (common practice).
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
