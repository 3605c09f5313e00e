import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import Paper from "@mui/material/Paper";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { Minimums, PilotSettings, Problem } from "../api/client";
import { useDrillsNow } from "../api/drills";
import { useChangeMinimums, useMinimums, useSessions } from "../api/queries";
import { VERDICT_WORDS, VerdictMark } from "../shell/marks";
import { courseWords } from "../drills/words";
import { EndFirstFlights } from "./EndFirstFlights";
import { OwnRules } from "./OwnRules";
import { QuantityInput } from "../inputs/QuantityInput";
import { ProblemNote, Waiting } from "../shell/notes";
import { useUnits } from "../shell/preferences";
import { momentHere } from "../shell/time";
import { written } from "../units/units";

type Question = Minimums["questions"][number];

/** Limits that pilots set for themselves: the schools, why, and what each would say of a session. */
export function MinimumsPage() {
  const [params, setParams] = useSearchParams();
  const session = params.has("session") ? Number(params.get("session")) : undefined;
  const units = useUnits();
  const minimums = useMinimums(session);
  const sessions = useSessions(units);
  const change = useChangeMinimums(session);
  const drills = useDrillsNow();
  const [ending, setEnding] = useState<PilotSettings | null>(null);

  useEffect(() => {
    document.title = "Minimums · Lark";
  }, []);

  if (minimums.isPending) return <Waiting what="your minimums" />;
  if (minimums.error)
    return (
      <ProblemNote
        problem={minimums.error as Problem}
        again={() => void minimums.refetch()}
        back={{ to: "/minimums", words: "Without that session" }}
      />
    );
  const { settings, history, in_force: inForce } = minimums.data;
  const put = (next: PilotSettings) => {
    const ends = settings.first_flights && !next.first_flights;
    if (ends && drills.data?.course.step !== null) setEnding(next);
    else change.mutate(next);
  };
  const rules = minimums.data.rule_sets.find((r) => r.id === settings.rule_set);
  const before = history[1];

  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 1000 }}>
      <Typography variant="h1">Personal minimums</Typography>
      <Typography color="text.secondary" sx={{ mb: 1.5 }}>
        Limits you set for yourself, stricter than the law: changed here on the ground, never in the
        air. Every session is checked against them; each decision keeps the ones in force when it
        was made.
      </Typography>
      {change.error && <ProblemNote problem={change.error as Problem} />}

      <Paper variant="outlined" sx={{ borderRadius: "14px", p: 2, mb: 1.5 }}>
        <FormControlLabel
          control={
            <Switch
              checked={settings.first_flights}
              onChange={(e) => put({ ...settings, first_flights: e.target.checked })}
            />
          }
          label="First flights: stricter limits for everything below"
        />
        {settings.first_flights && drills.data && (
          <Typography variant="body2">
            {courseWords(drills.data)} <Link to="/practice">Practice</Link> has its drills; when all
            five are done, or by your word, this goes off.
          </Typography>
        )}
        <EndFirstFlights
          open={ending !== null}
          now={drills.data}
          close={() => setEnding(null)}
          end={() => {
            if (ending) change.mutate({ ...ending, by_word: true });
            setEnding(null);
          }}
        />
        <Typography variant="body2" color="text.secondary">
          In force: {Math.round(inForce.wind_fraction * 100)}% of the rated wind, land with{" "}
          {inForce.reserve_pct}%, up to {written(inForce.legal_height_m, "length", units)},{" "}
          {inForce.satellites} satellites, {written(inForce.water_distance_m, "length", units)} over
          water.
        </Typography>
        {before && (
          <Button size="small" onClick={() => put(before.settings)}>
            Undo last change
          </Button>
        )}
      </Paper>

      <Paper
        component="section"
        aria-label="Rules"
        variant="outlined"
        sx={{ borderRadius: "14px", p: 2, mb: 1.5 }}
      >
        <TextField
          select
          fullWidth
          label="Rules you fly under"
          value={settings.rule_set}
          onChange={(e) => put({ ...settings, rule_set: e.target.value })}
        >
          {minimums.data.rule_sets.map((r) => (
            <MenuItem key={r.id} value={r.id}>
              {r.name}
            </MenuItem>
          ))}
        </TextField>
        {rules && (
          <>
            <Typography sx={{ mt: 1 }}>
              Up to {written(rules.height_m, "length", units)} above the ground. Other rules from{" "}
              {rules.mass_steps_g.map((g) => `${g} g`).join(", ")}.
              {rules.people_m !== null &&
                ` ${written(rules.people_m, "length", units)} from uninvolved people.`}
              {rules.airfield_m !== null &&
                ` ${written(rules.airfield_m, "length", units)} from airfields.`}{" "}
              {rules.night}
            </Typography>
            <Box component="ul" sx={{ my: 0.5, pl: 2.5 }}>
              {rules.notes.map((note) => (
                <li key={note}>{note}</li>
              ))}
              {rules.people_m !== null && rules.people_from_g !== null && (
                <li>The distance from people is asked from {rules.people_from_g} g on.</li>
              )}
              {rules.airfield_m !== null && rules.airfield_from_g !== null && (
                <li>The distance from airfields is asked from {rules.airfield_from_g} g on.</li>
              )}
              {rules.depends !== null && <li>{rules.depends}</li>}
            </Box>
            <Alert severity="warning" icon={false}>
              {rules.source}{" "}
              {rules.id === "own"
                ? "The text of your aviation authority decides. "
                : `That is ${rules.authority}. Noted on ${rules.checked}. `}
              Of these, Lark works out with the height and the weights, and where a place is drawn
              with the distances from people and airfields.
            </Alert>
          </>
        )}
        <OwnRules settings={settings} put={put} />
      </Paper>

      <Box sx={{ display: "flex", alignItems: "center", gap: 2, flexWrap: "wrap", mt: 2, mb: 1 }}>
        <Typography variant="h2" sx={{ flex: 1, minWidth: 200 }}>
          Where pilots disagree
        </Typography>
        <TextField
          select
          size="small"
          label="Verdicts shown for"
          value={
            session ??
            sessions.data?.sessions.find((s) => s.title === minimums.data.looked_at)?.id ??
            ""
          }
          onChange={(e) => setParams({ session: e.target.value }, { replace: true })}
          sx={{ minWidth: 260 }}
        >
          {(sessions.data?.sessions ?? []).map((s) => (
            <MenuItem key={s.id} value={s.id}>
              {s.title}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      {minimums.data.questions.map((q) => (
        <QuestionCard
          key={q.id}
          question={q}
          settings={settings}
          choose={(sets) => put({ ...settings, minimums: { ...settings.minimums, ...sets } })}
        />
      ))}

      <Typography variant="h2" sx={{ mt: 2 }}>
        What was in force
      </Typography>
      <Box component="ul" sx={{ pl: 2.5 }}>
        {history.map((h, i) => (
          <li key={h.changed_at ?? "defaults"}>
            {h.changed_at ? `Since ${momentHere(h.changed_at)}` : "The defaults"}
            {i === 0 ? ", in force" : ""}: land with {h.settings.minimums.reserve_pct}%,{" "}
            {Math.round(h.settings.minimums.wind_fraction * 100)}% of the rated wind,{" "}
            {h.settings.minimums.satellites} satellites
            {h.settings.first_flights ? ", first flights" : ""}
          </li>
        ))}
      </Box>
    </Box>
  );
}

function QuestionCard({
  question,
  settings,
  choose,
}: {
  question: Question;
  settings: PilotSettings;
  choose: (sets: Question["schools"][number]["sets"]) => void;
}) {
  return (
    <Paper
      component="section"
      aria-label={question.question}
      variant="outlined"
      sx={{ borderRadius: "14px", p: 1.5, mb: 1 }}
    >
      <Typography sx={{ fontWeight: 750 }}>{question.question}</Typography>
      <Typography variant="body2" color="text.secondary">
        {question.why}
      </Typography>
      <Box role="group" sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1 }}>
        {question.schools.map((school, i) => (
          <Button
            key={school.name}
            variant={school.chosen ? "contained" : "outlined"}
            aria-pressed={school.chosen}
            onClick={() => choose(school.sets)}
            aria-label={
              school.name +
              (school.verdict ? `: ${VERDICT_WORDS[school.verdict]}` : "") +
              (i === 0 ? " · default" : "")
            }
            sx={{ minHeight: 56, gap: 1, px: 2 }}
          >
            {school.verdict && (
              <Box
                sx={{
                  bgcolor: "background.paper",
                  borderRadius: "6px",
                  p: "3px",
                  lineHeight: 0,
                }}
              >
                <VerdictMark verdict={school.verdict} size={22} />
              </Box>
            )}
            <span>
              {school.name}{" "}
              <Typography component="span" sx={{ display: "block", fontSize: ".75rem" }}>
                {school.verdict ? VERDICT_WORDS[school.verdict] : ""}
                {i === 0 ? " · default" : ""}
              </Typography>
            </span>
          </Button>
        ))}
      </Box>
      {question.schools
        .filter((school) => school.chosen && school.adjusts === "sight_own_m")
        .map((school) => (
          <Box key={school.name} sx={{ maxWidth: 360, mt: 1 }}>
            <QuantityInput
              label="Tested by yourself"
              quantity="length"
              value={settings.minimums.sight_own_m ?? 150}
              min={10}
              max={600}
              most={2000}
              slider={false}
              onChange={(v) => choose({ sight_own_m: v })}
            />
          </Box>
        ))}
    </Paper>
  );
}
