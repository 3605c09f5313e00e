import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Paper from "@mui/material/Paper";
import Typography from "@mui/material/Typography";
import { Link, useParams } from "react-router";
import type { Decision, Problem } from "../api/client";
import { useDecision } from "../api/queries";
import { OutAndBack } from "../drawings/OutAndBack";
import { ProblemNote, Waiting } from "../shell/notes";
import { Seal } from "../shell/Seal";
import { moment } from "../shell/time";
import { Board } from "../stages/plan/Board";
import { headline } from "../stages/plan/headline";
import { PILOTS_WORDS } from "./words";

/** A decision as it was made: the word, the numbers, the plan. */
export function DecisionPage() {
  const { sessionId, decisionId } = useParams();
  const decision = useDecision(Number(decisionId));
  if (decision.isPending) return <Waiting what="the decision" />;
  if (decision.error)
    return (
      <ProblemNote
        problem={decision.error as Problem}
        again={() => void decision.refetch()}
        back={{ to: "/sessions", words: "All sessions" }}
      />
    );
  const d = decision.data;
  // How it was come by without the server stands among what was answered.
  const away = d.walkround.find(({ word }) => word === "away");
  const answers = d.walkround.filter((a) => a !== away);
  return (
    <Box sx={{ p: { xs: 1, md: 2.5 }, maxWidth: 1100 }}>
      <Button className="no-print" component={Link} to={`/sessions/${sessionId}/plan`}>
        Back to the session
      </Button>
      <Button
        className="no-print"
        component="a"
        href={`/api/decisions/${d.id}/record.pdf`}
        download
      >
        As PDF
      </Button>
      <Button
        className="no-print"
        component="a"
        href={`/api/decisions/${d.id}`}
        download={`decision-${d.id}.json`}
      >
        As JSON
      </Button>
      <Typography variant="h1" sx={{ mt: 1 }}>
        {PILOTS_WORDS[d.word]}: {d.plan.title}
      </Typography>
      <Typography color="text.secondary">{headline(d.plan)}</Typography>
      <Typography sx={{ my: 1 }}>
        Decided {moment(d.decided_at)}. This record can’t be changed.
        {d.note && (
          <>
            {" "}
            <b>Note:</b> {d.note}
          </>
        )}
      </Typography>
      {away && <Typography sx={{ mb: 1 }}>{away.item}</Typography>}
      <Seal plan={d.plan} result={d.result} asRecorded={d.decided_at} />
      <Paper variant="outlined" sx={{ borderRadius: "14px", p: 2, my: 1.5 }}>
        <Board result={d.result} />
      </Paper>
      {answers.length > 0 && (
        <Paper variant="outlined" sx={{ borderRadius: "14px", p: 2, mb: 1.5 }}>
          <Typography variant="h2">Preflight</Typography>
          <Typography>{doneOf(answers)}</Typography>
          <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
            {answers
              .filter((a) => a.word !== "done")
              .map((a) => (
                <li key={a.item}>
                  <b>{a.item}</b>: {a.word === "skip" ? `skipped, ${a.note}` : "fault reported"}
                </li>
              ))}
          </Box>
        </Paper>
      )}
      {/* The field tables say only whether it comes home: there is nothing to draw of that. */}
      {!(away && !d.result.energy) && (
        <Paper variant="outlined" sx={{ borderRadius: "14px", p: 2 }}>
          <OutAndBack plan={d.plan} result={d.result} />
        </Paper>
      )}
    </Box>
  );
}

function doneOf(walkround: Decision["walkround"]): string {
  const done = walkround.filter((a) => a.word === "done").length;
  return `${done} ${done === 1 ? "item" : "items"} done.`;
}
