import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { Outing, Plan, Ready } from "../../api/client";
import { tone, VERDICT_WORDS, VerdictMark } from "../../shell/marks";
import { clock } from "../../shell/time";
import { FlightStrip } from "./FlightStrip";
import { asSet, sooner, type HandFlight } from "./outing";
import { ShotMenu } from "./ShotMenu";
import type { PutOuting } from "./props";

type Filming = NonNullable<Ready["filming"]>;
type Flight = Filming["flights"][number];

/** The flights that film the subjects, pack by pack, with the charge at each step; they can be rearranged. */
export function Flights({
  ready,
  plan,
  outing,
  put,
  fly,
}: {
  ready: Ready;
  plan: Plan;
  outing: Outing;
  put: PutOuting;
  /** Make a flight the one that the plan, the walkround and the decision are about. */
  fly: (flight: Flight) => void;
}) {
  const { filming, best } = ready;
  if (outing.shots.length === 0)
    return (
      <Typography>
        Say what you want to film: Lark then shares the subjects out to your batteries and puts them
        in order.
      </Typography>
    );
  if (!ready.wind_known)
    return (
      <Typography>
        The wind above is not known yet, so no flight can be worked out. Add a forecast in the plan.
      </Typography>
    );
  // While a change is on its way, the answer may still be for the subjects as they were.
  if (!filming || ready.outing.shots.length !== outing.shots.length)
    return <Typography role="status">Working it out…</Typography>;
  const flights = asSet(filming);
  const change = (next: HandFlight[]) => put({ flights: next });
  return (
    <>
      <Typography sx={{ fontWeight: 700 }}>{summary(filming, outing)}</Typography>
      {filming.by_hand && (
        <Box sx={{ display: "flex", alignItems: "center", flexWrap: "wrap", gap: 1 }}>
          <Typography variant="body2" color="text.secondary">
            As you set it.{" "}
            {best &&
              `The best way films ${outing.shots.length - best.left_out.length} of ${outing.shots.length} with ${best.flights.length} ${best.flights.length === 1 ? "battery" : "batteries"}.`}
          </Typography>
          <Button className="no-print" size="small" onClick={() => put({ flights: null })}>
            Take the best way
          </Button>
        </Box>
      )}
      {filming.flights.map((flight, i) => (
        <FlightBlock
          key={`${i}-${flight.pack}`}
          number={i}
          flight={flight}
          filming={filming}
          plan={plan}
          outing={outing}
          packs={ready.packs.filter((p) => p.chosen)}
          flights={flights}
          change={change}
          fly={() => fly(flight)}
        />
      ))}
      {filming.left_out.length > 0 && (
        <Alert severity="warning" icon={false} sx={{ border: 1, mt: 1 }}>
          <b>Not filmed</b>
          <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
            {filming.left_out.map((left) => (
              <li key={left.shot}>
                <b>{outing.shots[left.shot]?.name}</b>: {left.why} {left.ways.join(" ")}
                {filming.by_hand && (
                  <ShotMenu
                    shot={left.shot}
                    name={outing.shots[left.shot]?.name ?? ""}
                    flights={flights}
                    packs={ready.packs.filter((p) => p.chosen)}
                    change={change}
                  />
                )}
              </li>
            ))}
          </Box>
        </Alert>
      )}
    </>
  );
}

/** What keeps a flight from a clean launch, subject by subject. */
function Judged({ flight, name }: { flight: Flight; name: (shot: number) => string }) {
  const found = flight.subjects.filter((s) => s.verdict !== "launch");
  if (!flight.verdict) return null;
  return (
    <Box sx={{ my: 0.5 }}>
      <Typography sx={{ fontWeight: 800, color: tone(flight.verdict) }}>
        {VERDICT_WORDS[flight.verdict]}
      </Typography>
      {found.length > 0 && (
        <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
          {found.map((s) => (
            <li key={s.shot}>
              <b>{name(s.shot)}</b>, {s.label.toLowerCase()}: {s.sentence} {s.helps}
            </li>
          ))}
        </Box>
      )}
    </Box>
  );
}

function summary(filming: Filming, outing: Outing): string {
  const filmed = outing.shots.length - filming.left_out.length;
  const packs = new Set(filming.flights.map((f) => f.pack)).size;
  const all = filmed === outing.shots.length ? "All" : `${filmed} of`;
  const faults = filming.flights.some((f) => f.faults.length > 0);
  return (
    `${all} ${outing.shots.length} subjects with ${packs} ${packs === 1 ? "battery" : "batteries"}` +
    (faults
      ? ", but some flights don’t work: see below."
      : `, each flight home with ${filming.reserve_pct}% or more.`)
  );
}

function FlightBlock({
  number,
  flight,
  filming,
  plan,
  outing,
  packs,
  flights,
  change,
  fly,
}: {
  number: number;
  flight: Flight;
  filming: Filming;
  plan: Plan;
  outing: Outing;
  packs: Ready["packs"];
  flights: HandFlight[];
  change: (flights: HandFlight[]) => void;
  fly: () => void;
}) {
  const name = (shot: number | null) => (shot === null ? "" : (outing.shots[shot]?.name ?? ""));
  return (
    <Box
      component="section"
      aria-label={`Flight ${number + 1}, battery ${flight.label}`}
      sx={{
        borderTop: 1,
        borderColor: "divider",
        pt: 1,
        mt: 1,
        "@media print": { breakInside: "avoid" },
      }}
    >
      <Box sx={{ display: "flex", alignItems: "center", flexWrap: "wrap", gap: 1 }}>
        {flight.verdict && <VerdictMark verdict={flight.verdict} size={30} />}
        <Typography variant="h3" sx={{ flex: 1, minWidth: 150 }}>
          Flight {number + 1} · pack {flight.label} · {clock(flight.begins_at)} to{" "}
          {clock(flight.lands_at)}
        </Typography>
        <Box className="no-print" sx={{ display: "flex", gap: 0.5, alignItems: "center" }}>
          <TextField
            select
            size="small"
            label="Battery"
            value={flight.pack}
            sx={{ minWidth: 86 }}
            onChange={(e) =>
              change(
                flights.map((f, i) => (i === number ? { ...f, pack: Number(e.target.value) } : f)),
              )
            }
          >
            {packs.map((p) => (
              <MenuItem key={p.id} value={p.id}>
                {p.label}
              </MenuItem>
            ))}
          </TextField>
          {number > 0 && (
            <Button size="small" onClick={() => change(sooner(flights, number))}>
              Move earlier
            </Button>
          )}
        </Box>
      </Box>
      <FlightStrip flight={flight} reserve={filming.reserve_pct} name={name} />
      <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
        {flight.steps.map((step, i) => (
          <li key={i}>
            {step.what === "out" && `Up and out to ${name(step.shot)}`}
            {step.what === "over" && `Over to ${name(step.shot)}`}
            {step.what === "home" && "Home and down"}
            {step.what === "film" && (
              <>
                <b>Film {name(step.shot)}</b>, {outing.shots[step.shot!]?.minutes} min
                <ShotMenu
                  shot={step.shot!}
                  name={name(step.shot)}
                  flights={flights}
                  packs={packs}
                  change={change}
                />
              </>
            )}
            {": "}
            <b>{Math.round(step.charge_after_pct)}%</b> left
          </li>
        ))}
      </Box>
      <Judged flight={flight} name={name} />
      <Button
        className="no-print"
        size="small"
        variant="outlined"
        sx={{ minHeight: 48, mt: 0.5 }}
        onClick={fly}
      >
        Plan this flight
      </Button>
      {flight.downwind && (
        <Typography variant="body2">
          Tailwind out, headwind home for {plan.aircraft.name}.
        </Typography>
      )}
      {flight.faults.map((fault) => (
        <Alert key={fault} severity="error" icon={false} sx={{ border: 1, py: 0, mt: 0.5 }}>
          {fault}
        </Alert>
      ))}
    </Box>
  );
}
