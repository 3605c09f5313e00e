import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import Typography from "@mui/material/Typography";
import { useEffect, useMemo, useState } from "react";
import { Link } from "react-router";
import { Panel } from "../shell/Panel";
import { useUnits } from "../shell/preferences";
import { useToTop } from "../shell/useToTop";
import { written } from "../units/units";
import { Choices } from "./Choices";
import { FromAbove, FromTheSide } from "./Drawn";
import { Flight, type Acts, type Ended } from "./flight";
import { reviewing, type Choice, type Review } from "./review";
import type { HomeFlight } from "./tables";
import { trackOf } from "./useFlying";
import { ACT_TOLD, ACT_WORDS, clock, ENDS, endWords, KINDS } from "./words";

/** What a flight came to: why, what else could have been done, and until when. */
export function Afterwards({
  home,
  acts,
  next,
  again,
}: {
  home: HomeFlight;
  acts: Acts;
  next: number | undefined;
  again: () => void;
}) {
  const { track, flown } = useMemo(() => trackOf(home, acts), [home, acts]);
  const ended = flown.ended!;
  // Who was down before it began had nothing to decide.
  const early = home.mishap.at_s >= ended.at_s;
  const { review, share } = useReview(home, acts, early ? null : ended);
  const good = ended.end === "home" && ended.charge_pct >= home.reserve_pct;
  // Who came home well is told how long it could have waited; all others, how long they could have saved it.
  const nothing = useMemo(() => (good ? new Flight(home).toTheEnd() : null), [good, home]);
  const { review: idle } = useReview(home, NOTHING, nothing);
  const better = useMemo(
    () => (review?.best ? trackOf(home, actsOf(acts, review.best)).track : undefined),
    [home, acts, review],
  );
  const top = useToTop<HTMLDivElement>();
  return (
    <Box ref={top} tabIndex={-1} sx={{ outline: "none" }}>
      <Panel title={titleOf(ended, home.reserve_pct)} hint={`flight ${home.seed}`}>
        <Typography sx={{ fontWeight: 700 }}>{KINDS[home.mishap.kind].told}</Typography>
        <Typography>{ownWords(ended, home.reserve_pct)}</Typography>
        <Typography>
          {acts.length === 0
            ? "You did nothing."
            : `You: ${acts.map(({ at_s, act }) => `${ACT_WORDS[act].toLowerCase()} at ${clock(at_s)}`).join(", ")}.`}
          {early
            ? ` You were down before it began, at ${clock(home.mishap.at_s)}.`
            : home.mishap.at_s > home.begins_s && ` It began at ${clock(home.mishap.at_s)}.`}
        </Typography>
        {review && <Told home={home} review={review} idle={good ? idle : undefined} />}
        {!review && !early && (
          <Box sx={{ mt: 1 }}>
            <Typography variant="body2">Looking at what else you could have done</Typography>
            <LinearProgress
              variant="determinate"
              value={100 * share}
              aria-label="Choices looked at"
            />
          </Box>
        )}
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1.5 }}>
          {next !== undefined && next !== home.seed && (
            <Button
              component={Link}
              to={`/practice/home/${next}`}
              variant="contained"
              sx={{ minHeight: 48 }}
            >
              Another flight
            </Button>
          )}
          <Button variant="outlined" sx={{ minHeight: 48 }} onClick={again}>
            Fly this one again
          </Button>
          <Share />
          <Button component={Link} to="/practice" variant="outlined" sx={{ minHeight: 48 }}>
            That’s enough
          </Button>
        </Box>
      </Panel>
      <Panel title="How it was flown">
        {better && (
          <Typography variant="body2" color="text.secondary">
            Line: you. Dashed: the best that was found.
          </Typography>
        )}
        <FromTheSide home={home} track={track} better={better} at={track.at(-1)!} />
        <FromAbove home={home} track={track} better={better} at={track.at(-1)!} />
      </Panel>
      {review && (
        <Panel title="What each choice would have led to">
          <Choices home={home} review={review} />
        </Panel>
      )}
      {home.card && (
        <Panel title={`Emergency text: ${home.card.title}`}>
          <Box component="ol" sx={{ m: 0, pl: 3 }}>
            {home.card.steps.map((step) => (
              <Typography component="li" key={step}>
                {step}
              </Typography>
            ))}
          </Box>
          {home.card.numbers.map((line) => (
            <Typography key={line} color="text.secondary">
              {line}
            </Typography>
          ))}
        </Panel>
      )}
      <Typography variant="body2" color="text.secondary">
        A model, with simple physics: your aircraft’s manual and your local rules come first.
      </Typography>
    </Box>
  );
}

const actsOf = (acts: Acts, { at_s, act, then }: Choice): Acts => [
  ...acts.filter((a) => a.at_s < at_s),
  { at_s, act },
  ...then,
];

const NOTHING: Acts = [];

/** Looks at other choices a little at a time, so that the page stays alive. */
function useReview(home: HomeFlight, acts: Acts, ended: Ended | null) {
  const [review, setReview] = useState<Review | null>(null);
  const [share, setShare] = useState(0);
  useEffect(() => {
    if (ended === null) return;
    const going = reviewing(home, acts, ended);
    let timer = setTimeout(function on() {
      const next = going.next();
      if (next.done) return setReview(next.value);
      setShare(next.value);
      timer = setTimeout(on, 0);
    }, 0);
    return () => clearTimeout(timer);
  }, [home, acts, ended]);
  return { review, share };
}

function titleOf({ end, charge_pct }: Ended, reserve_pct: number): string {
  if (end !== "home") return `${ENDS[end].title}.`;
  return charge_pct >= reserve_pct
    ? `Home with ${Math.round(charge_pct)}%.`
    : `Home, but with ${Math.round(charge_pct)}%: under your reserve.`;
}

function ownWords({ end, charge_pct, at_s }: Ended, reserve_pct: number): string {
  const reserve = `Your reserve is ${reserve_pct}%.`;
  return `It ended at ${clock(at_s)}${end === "home" ? "" : ` with ${Math.round(charge_pct)}% charge`}. ${reserve}`;
}

/** What it would have been at best, and until when. */
function Told({
  home,
  review,
  idle,
}: {
  home: HomeFlight;
  review: Review;
  /** Of the flight on which nothing is done; null while it is looked at, undefined where it does not matter. */
  idle: Review | null | undefined;
}) {
  const units = useUnits();
  const { best } = review;
  return (
    <>
      <Typography sx={{ mt: 0.5 }}>
        {best === null
          ? "Nothing that was tried would have been better."
          : `Best of all that was tried: ${bestWords(best)}, ${endWords(best.ended, (m) => written(m, "length", units))}.`}
      </Typography>
      <Typography>{idle === null ? "…" : lastWords(idle ?? review, idle !== undefined)}</Typography>
      {home.mishap.kind === "none" && (
        <Typography>
          Doing nothing unusual was right. About one flight in nine is like this.
        </Typography>
      )}
    </>
  );
}

/** Until when it could have been brought home. */
function lastWords({ last_home_s, last_reserve_s }: Review, idle: boolean): string {
  if (last_home_s === null) return "From when it began, nothing that was tried brought it home.";
  const begins = idle
    ? "Had you done nothing, it could have been brought home until"
    : "The last moment looked at from which it could still come home:";
  if (last_reserve_s === last_home_s) return `${begins} ${clock(last_home_s)}, with your reserve.`;
  const reserve =
    last_reserve_s === null
      ? "with your reserve from no moment on"
      : `with your reserve until ${clock(last_reserve_s)}`;
  return `${begins} ${clock(last_home_s)}; ${reserve}.`;
}

const bestWords = ({ at_s, act, then }: Choice) =>
  [
    `${ACT_TOLD[act]} at ${clock(at_s)}`,
    ...then.map((a) => `${ACT_TOLD[a.act]} at ${clock(a.at_s)}`),
  ].join(", then ");

/** The address holds the whole flight. */
function Share() {
  const [copied, setCopied] = useState(false);
  const share = async () => {
    const url = window.location.href;
    try {
      if (navigator.share) await navigator.share({ url, title: "Bring it home" });
      else {
        await navigator.clipboard.writeText(url);
        setCopied(true);
      }
    } catch {
      // not shared, then: the address is there to be copied
    }
  };
  return (
    <Button variant="outlined" sx={{ minHeight: 48 }} onClick={() => void share()}>
      {copied ? "Link copied" : "Share this flight"}
    </Button>
  );
}
