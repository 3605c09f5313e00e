import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { useLearn, useOffers } from "../api/flights";
import type { Offer, Offers, Problem, Verdict } from "../api/client";
import { VERDICT_WORDS } from "../frame/marks";
import { ProblemNote, Waiting } from "../frame/notes";
import { Panel } from "../frame/Panel";

const ABOUT: Record<string, { what: (name: string) => string; value: (v: number) => string }> = {
  consumption: {
    what: (name) => `${name}: consumption`,
    value: (v) => `${Math.round(100 * v)} % of its spec sheet`,
  },
  health: { what: (name) => `Pack ${name}: health`, value: (v) => `${Math.round(v)} %` },
  radio: {
    what: (name) => `${name}: radio`,
    value: (v) => `${v.toFixed(0)} dB less than the model says`,
  },
};

function interval(offer: Offer): string {
  const pm = offer.kind === "consumption" ? 100 * offer.pm : offer.pm;
  return `±${pm < 1 ? pm.toFixed(1) : Math.round(pm)}`;
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
          From five flights on that used 15 points of charge or more, Lark compares what they cost
          with what was planned, and offers what it found.
        </Typography>
      </Panel>
    );
  return (
    <Panel title="Learning" hint="taken only on your word">
      {learn.error && <ProblemNote problem={learn.error as Problem} />}
      {found.map((offer) => (
        <OfferRow
          key={`${offer.kind} ${offer.target}`}
          offer={offer}
          busy={learn.isPending}
          take={() => learn.mutate({ kind: offer.kind, target: offer.target })}
        />
      ))}
      <Taken taken={taken} undo={(id) => learn.mutate({ undo: id })} />
    </Panel>
  );
}

function OfferRow({ offer, take, busy }: { offer: Offer; take: () => void; busy: boolean }) {
  const about = ABOUT[offer.kind]!;
  return (
    <Box
      component="section"
      aria-label={about.what(offer.name)}
      sx={{ borderTop: 1, borderColor: "divider", py: 1 }}
    >
      <Typography sx={{ fontWeight: 750 }}>{about.what(offer.name)}</Typography>
      <Typography>
        {offer.offered
          ? `${about.value(offer.value)} (${interval(offer)}), from ${offer.flights.length} flights. In use: ${about.value(offer.now)}.`
          : `${offer.flights.length} flights agree with what is in use: ${about.value(offer.now)}.`}
        {offer.set_aside > 0 &&
          ` ${offer.set_aside} more met another wind than planned, and ${offer.set_aside === 1 ? "is" : "are"} left out.`}
      </Typography>
      {offer.offered && (
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
            Reckon with it from now on
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
  return `, lands with ${Math.round(after)} % instead of ${Math.round(before)} %`;
}

function Taken({ taken, undo }: { taken: Offers["taken"]; undo: (id: number) => void }) {
  if (taken.length === 0) return null;
  return (
    <Box component="ul" aria-label="Taken" sx={{ listStyle: "none", p: 0, m: 0 }}>
      {taken.map((t) => {
        const about = ABOUT[t.kind]!;
        return (
          <Box
            component="li"
            key={t.id}
            sx={{
              display: "flex",
              gap: 1,
              alignItems: "center",
              borderTop: 1,
              borderColor: "divider",
            }}
          >
            <Typography variant="body2" sx={{ flex: 1 }}>
              {about.what(t.name)}: {about.value(t.after)} since{" "}
              {new Date(t.taken_at).toLocaleDateString()}
              {t.undone_at && ", undone"}
            </Typography>
            {!t.undone_at && (
              <Button size="small" onClick={() => undo(t.id)}>
                Undo
              </Button>
            )}
          </Box>
        );
      })}
    </Box>
  );
}
