import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Dialog from "../shell/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Problem, type PilotsWord, type Plan, type Result } from "../api/client";
import { awayNow } from "../along/away";
import { useRecordDecision } from "../api/queries";
import { useUnits } from "../shell/preferences";
import { ProblemNote } from "../shell/notes";
import { Seal } from "../shell/Seal";
import { useOpenStages, type OpenStage } from "../outbox/open";
import { keepDecided } from "../outbox/decided";
import { useFlushWords } from "../outbox/useSaying";
import { PILOTS_WORDS } from "./words";

type OpenWord = "in_order" | "not_known";

const NAMED = 3;

/** What a stage has left open, in one line. */
function openWords({ name, questions }: OpenStage): string {
  const named = questions.slice(0, NAMED).map((q) => q.replace(/\?$/, ""));
  const more = questions.length - named.length;
  return `Not answered on the ${name}: ${named.join("; ")}${more > 0 ? `; and ${more} more` : ""}`;
}

/** The pilot's word on what the numbers say. What it rests on is kept with it. */
export function DecisionDialog({
  sessionId,
  plan,
  result,
  flush,
  onClose,
}: {
  sessionId: number;
  plan: Plan;
  result: Result;
  flush: () => Promise<number>;
  onClose: () => void;
}) {
  const [word, setWord] = useState<PilotsWord | null>(null);
  const [note, setNote] = useState("");
  const [said, setSaid] = useState<Record<string, OpenWord>>({});
  const [problem, setProblem] = useState<Problem | null>(null);
  const units = useUnits();
  const record = useRecordDecision(sessionId, units);
  const flushWords = useFlushWords(sessionId);
  const against = word === "launch" && ["stay", "unknown"].includes(result.verdict);
  const open = useOpenStages(sessionId, plan, units);
  const asked = [
    ...result.questions,
    ...open.map((stage) => ({ id: stage.said, question: openWords(stage) })),
  ];
  const silent = word === "launch" && asked.some((q) => !(q.id in said));
  const lacking = (against && note.trim() === "") || silent;

  const keep = async () => {
    if (!word) return;
    setProblem(null);
    let asking = false;
    try {
      // The decision rests on plan and answers as saved, so what is on the screen goes there first.
      await flushWords();
      const revision = await flush();
      asking = true;
      await record.mutateAsync({ word, note, revision, said });
      onClose();
    } catch (cause) {
      // Once the server was asked it may have it, though its answer was lost: then the same is asked again.
      if (!asking && awayNow() && cause instanceof Problem && cause.status === 0) {
        const questions = Object.fromEntries(asked.map(({ id, question }) => [id, question]));
        keepDecided({ session: sessionId, word, note, said, asked: questions, plan, result });
        return onClose();
      }
      setProblem(cause instanceof Problem ? cause : new Problem(0, String(cause)));
    }
  };

  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="decision-title">
      <DialogTitle id="decision-title">Record a decision</DialogTitle>
      <DialogContent>
        <Seal plan={plan} result={result} />
        {asked.length > 0 && (
          <Alert severity="warning" icon={false} sx={{ mt: 1 }}>
            Not checked yet. A launch needs your word on each:
            <ul style={{ margin: 0, padding: 0, listStyle: "none" }}>
              {asked.map((q) => (
                <li key={q.id}>
                  <Typography sx={{ mt: 1 }}>{q.question}</Typography>
                  <ToggleButtonGroup
                    exclusive
                    aria-label={q.question}
                    value={said[q.id] ?? null}
                    onChange={(_, next: OpenWord | null) =>
                      setSaid((before) =>
                        next === null
                          ? Object.fromEntries(Object.entries(before).filter(([id]) => id !== q.id))
                          : { ...before, [q.id]: next },
                      )
                    }
                  >
                    <ToggleButton value="in_order" sx={{ minHeight: 48 }}>
                      Looked, in order
                    </ToggleButton>
                    <ToggleButton value="not_known" sx={{ minHeight: 48 }}>
                      Not known
                    </ToggleButton>
                  </ToggleButtonGroup>
                </li>
              ))}
            </ul>
          </Alert>
        )}
        <Typography sx={{ mt: 2, mb: 1 }}>Your decision as pilot:</Typography>
        <ToggleButtonGroup
          exclusive
          fullWidth
          aria-label="Your word"
          value={word}
          onChange={(_, next: PilotsWord | null) => setWord(next)}
        >
          {(Object.keys(PILOTS_WORDS) as PilotsWord[]).map((key) => (
            <ToggleButton key={key} value={key} sx={{ minHeight: 56, fontSize: "1rem" }}>
              {PILOTS_WORDS[key]}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <TextField
          label={against ? "Reason for launching against the verdict" : "Note"}
          required={against}
          fullWidth
          multiline
          minRows={2}
          margin="normal"
          value={note}
          slotProps={{ htmlInput: { maxLength: 4000 } }}
          onChange={(e) => setNote(e.target.value)}
          helperText={
            against && note.trim() === ""
              ? "Give a reason for launching against the verdict."
              : silent
                ? "Say a word on each thing that is not checked."
                : " "
          }
        />
        {problem && <ProblemNote problem={problem} />}
        <Alert severity="info" icon={false}>
          Plan, numbers and your word are kept as they are now and cannot be changed later. Local
          rules, the land owner, the manual and your aviation authority come first.
        </Alert>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Back</Button>
        <Button
          variant="contained"
          disabled={!word || lacking || record.isPending}
          onClick={() => void keep()}
        >
          Save decision
        </Button>
      </DialogActions>
    </Dialog>
  );
}
