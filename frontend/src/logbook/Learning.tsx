import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { useLearn, useOffers } from "../api/flights";
import type { Offer, Offers, Problem, Verdict } from "../api/client";
import { VERDICT_WORDS } from "../shell/marks";
import { ProblemNote, Waiting } from "../shell/notes";
import { Panel } from "../shell/Panel";
import { useUnits } from "../shell/preferences";
import { written, type Units } from "../units/units";

type Change = Offer["changes"][number];

type About = { what: (name: string) => string; value: (v: number, units: Units) => string };

const ABOUT: Record<string, About> = {
  consumption: {
    what: (name) => `${name}: consumption`,
    value: (v) => `${Math.round(100 * v)}% of its spec sheet`,
  },
  health: { what: (name) => `Battery ${name}: health`, value: (v) => `${Math.round(v)}%` },
  radio: {
    what: (name) => `${name}: radio`,
    value: (v) => `${v.toFixed(0)} dB less than the model says`,
  },
  forecast: {
    what: (name) => `${name}: wind`,
    value: (v, units) => (v > 0 ? `${written(v, "speed", units)} more than it says` : "as it says"),
  },
};

function interval({ kind, pm }: Change, units: Units): string {
  if (kind === "forecast") return `±${written(pm, "speed", units)}`;
  const wide = kind === "consumption" ? 100 * pm : pm;
  return `±${wide < 1 ? wide.toFixed(1) : Math.round(wide)}`;
}

/** What the logbook teaches: offered with the evidence and what it changes, taken only by the pilot. */
export function Learning() {
  const offers = useOffers();
  const learn = useLearn();
  if (!offers.data)
    return (
      <Panel title="Learning" hint="">
        {offers.error ? (
          <ProblemNote problem={offers.error as Problem} again={() => void offers.refetch()} />
        ) : (
          <Waiting what="what the logbook teaches" />
        )}
      </Panel>
    );
  const { offers: found, taken } = offers.data;
  if (found.length === 0 && taken.length === 0)
    return (
      <Panel title="Learning" hint="nothing yet">
        <Typography>
          From five flights on that used 15% of charge or more, Lark compares what they cost with
          what was planned, and offers what it found.
        </Typography>
      </Panel>
    );
  return (
    <Panel title="Learning" hint="applied only if you agree">
      {learn.error && <ProblemNote problem={learn.error as Problem} />}
      {found.map((offer) => (
        <OfferRow
          key={`${offer.kind} ${offer.target} ${offer.source}`}
          offer={offer}
          busy={learn.isPending}
          take={() => {
            const { kind, target, source } = offer;
            learn.mutate({ kind, target, source });
          }}
        />
      ))}
      <Taken taken={taken} undo={(id) => learn.mutate({ undo: id })} />
    </Panel>
  );
}

function nameOf(offer: Offer): string {
  const [first] = offer.changes;
  if (offer.changes.length === 1 && first) return ABOUT[first.kind]!.what(first.name);
  return `${offer.name}: consumption and battery health`;
}

function OfferRow({ offer, take, busy }: { offer: Offer; take: () => void; busy: boolean }) {
  const units = useUnits();
  const { drifts, flights, offered } = offer;
  return (
    <Box
      component="section"
      aria-label={nameOf(offer)}
      sx={{ borderTop: 1, borderColor: "divider", py: 1 }}
    >
      <Typography sx={{ fontWeight: 750 }}>{nameOf(offer)}</Typography>
      <Typography>
        {`${offered ? "From" : "What is in use agrees with"} ${flights.length} ${flights.length === 1 ? "flight" : "flights"}.`}
        {offer.set_aside > 0 &&
          ` ${offer.set_aside} more had different wind from the plan and ${offer.set_aside === 1 ? "was" : "were"} left out.`}
        {drifts && " It changes with time: later flights count more."}
      </Typography>
      {offered && (
        <Box component="ul" sx={{ pl: 2.5, my: 0.5 }}>
          {offer.changes.map((c) => (
            <li key={`${c.kind} ${c.target}`}>
              {ABOUT[c.kind]!.what(c.name)}: {ABOUT[c.kind]!.value(c.value, units)} (
              {interval(c, units)}), in use {ABOUT[c.kind]!.value(c.now, units)}
            </li>
          ))}
        </Box>
      )}
      {offered && !offer.level_known && (
        <Typography variant="body2">
          How much of it is the aircraft and how much its batteries is hardly told: flights show
          only both together. A battery’s own capacity test, or its cycles, would tell.
        </Typography>
      )}
      {offered && (
        <>
          {offer.effects.map((e) => (
            <Typography key={e.session_id} variant="body2">
              <Link to={`/sessions/${e.session_id}/plan`}>{e.title}</Link>:{" "}
              {VERDICT_WORDS[e.verdict_before as Verdict].toLowerCase()}
              {e.verdict_after === e.verdict_before
                ? " as before"
                : ` → ${VERDICT_WORDS[e.verdict_after as Verdict].toLowerCase()}`}
              {landing(e)}
            </Typography>
          ))}
          {offer.effects.length === 0 && (
            <Typography variant="body2">No session that is still to come would change.</Typography>
          )}
          <Button variant="outlined" sx={{ mt: 0.5, minHeight: 44 }} disabled={busy} onClick={take}>
            {offer.changes.length > 1
              ? "Use all of them from now on"
              : "Use this value from now on"}
          </Button>
        </>
      )}
    </Box>
  );
}

/** What a session lands with, where the change is one that is seen. */
function landing({
  landing_before_pct: before,
  landing_after_pct: after,
}: Offer["effects"][number]) {
  if (before == null || after == null || Math.round(before) === Math.round(after)) return "";
  return `, lands with ${Math.round(after)}% instead of ${Math.round(before)}%`;
}

/** What was taken as one is one line, and undone as one. */
function Taken({ taken, undo }: { taken: Offers["taken"]; undo: (id: number) => void }) {
  const units = useUnits();
  if (taken.length === 0) return null;
  const together = new Map<string, Offers["taken"]>();
  for (const t of taken) together.set(t.taken_at, [...(together.get(t.taken_at) ?? []), t]);
  return (
    <Box component="ul" aria-label="Taken" sx={{ listStyle: "none", p: 0, m: 0 }}>
      {[...together].map(([at, parts]) => (
        <Box
          component="li"
          key={at}
          sx={{
            display: "flex",
            gap: 1,
            alignItems: "center",
            borderTop: 1,
            borderColor: "divider",
          }}
        >
          <Typography variant="body2" sx={{ flex: 1 }}>
            {parts
              .toReversed()
              .map((t) => `${ABOUT[t.kind]!.what(t.name)} ${ABOUT[t.kind]!.value(t.after, units)}`)
              .join("; ")}
            , since {new Date(at).toLocaleDateString()}
            {parts[0]!.undone_at && ", undone"}
          </Typography>
          {!parts[0]!.undone_at && (
            <Button size="small" onClick={() => undo(parts[0]!.id)}>
              Undo
            </Button>
          )}
        </Box>
      ))}
    </Box>
  );
}
