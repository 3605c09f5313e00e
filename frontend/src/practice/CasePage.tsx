import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import Radio from "@mui/material/Radio";
import RadioGroup from "@mui/material/RadioGroup";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import { Link, useParams } from "react-router";
import type { Problem } from "../api/client";
import { useAnswer, usePosed, type AnswerIn, type Posed } from "../api/practice";
import { OptionalQuantityInput } from "../inputs/QuantityInput";
import { number } from "../shell/device";
import { Panel } from "../shell/Panel";
import { ProblemNote, Waiting } from "../shell/notes";
import { useUnits } from "../shell/preferences";
import { useToTop } from "../shell/useToTop";
import { CaseMarks } from "./CaseMarks";
import { WORDS } from "./words";

/** A case: found as on site, answered, marked. */
export function CasePage() {
  const { family = "", seed = "1" } = useParams();
  return <Open key={`${family}/${seed}`} family={family} seed={Number(seed)} />;
}

function Open({ family, seed }: { family: string; seed: number }) {
  const units = useUnits();
  const posed = usePosed(family, seed, units);
  const answer = useAnswer(family, seed, units);
  const marked = answer.data;
  const top = useToTop<HTMLDivElement>(marked);
  useEffect(() => {
    document.title = `${posed.data?.name ?? "Case"} · Practice · Lark`;
  }, [posed.data?.name]);
  if (posed.error)
    return (
      <ProblemNote
        problem={posed.error as Problem}
        again={() => void posed.refetch()}
        back={{ to: "/practice", words: "Practice" }}
      />
    );
  if (!posed.data) return <Waiting what="the case" />;
  return (
    <Box ref={top} tabIndex={-1} sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 1100, outline: "none" }}>
      <Button component={Link} to="/practice" sx={{ ml: -1 }}>
        Practice
      </Button>
      <Typography variant="h1">{posed.data.title}: would you launch?</Typography>
      <Typography color="text.secondary" sx={{ mb: 1 }}>
        {posed.data.name}, case {posed.data.seed}
      </Typography>
      {marked && <CaseMarks marked={marked} posed={posed.data} />}
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) 380px" },
          gap: { xs: 0, md: 1.5 },
          alignItems: "start",
        }}
      >
        <Found posed={posed.data} />
        {!marked && (
          <Box sx={{ position: { md: "sticky" }, top: { md: 12 } }}>
            <AnswerForm
              posed={posed.data}
              busy={answer.isPending}
              onAnswer={(said) => answer.mutate(said)}
            />
            {answer.error && <ProblemNote problem={answer.error as Problem} />}
          </Box>
        )}
      </Box>
    </Box>
  );
}

/** What the pilot finds, group by group. */
function Found({ posed }: { posed: Posed }) {
  return (
    <Panel title="What you find">
      {posed.found.map((group) => (
        <Box key={group.name} sx={{ mb: 1 }}>
          <Typography sx={{ fontWeight: 700 }}>{group.name}</Typography>
          {group.lines.map((line) => (
            <Typography key={line}>{line}</Typography>
          ))}
        </Box>
      ))}
    </Panel>
  );
}

const SURE = [50, 60, 70, 80, 90, 100];

function AnswerForm({
  posed,
  busy,
  onAnswer,
}: {
  posed: Posed;
  busy: boolean;
  onAnswer: (said: AnswerIn) => void;
}) {
  const [word, setWord] = useState<AnswerIn["word"] | null>(null);
  const [tightest, setTightest] = useState("");
  const [sure, setSure] = useState<number | null>(null);
  const [turnBack, setTurnBack] = useState<number | null>(null);
  const [height, setHeight] = useState<number | null>(null);
  // Sent again after a lost answer it is the same one.
  const [uid] = useState(number);
  const open = [
    word === null && "what you do",
    tightest === "" && "what is tightest",
    sure === null && "how sure you are",
  ].filter((text) => text !== false);
  return (
    <Panel title="What you say">
      <ToggleButtonGroup
        exclusive
        fullWidth
        aria-label="What you do"
        value={word}
        onChange={(_, value: AnswerIn["word"] | null) => value && setWord(value)}
      >
        {(Object.keys(WORDS) as AnswerIn["word"][]).map((key) => (
          <ToggleButton key={key} value={key} sx={{ minHeight: 56 }}>
            {WORDS[key]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Typography id="tightest" sx={{ fontWeight: 700, mt: 1.5 }}>
        Which of these is nearest to its limit, or furthest over it?
      </Typography>
      <RadioGroup
        aria-labelledby="tightest"
        value={tightest}
        onChange={(_, value) => setTightest(value)}
      >
        {posed.choices.map((choice) => (
          <FormControlLabel
            key={choice.check}
            value={choice.check}
            control={<Radio />}
            label={choice.label}
          />
        ))}
      </RadioGroup>
      {posed.numbers && (
        <>
          <Typography sx={{ fontWeight: 700, mt: 1 }}>By feel, if you like</Typography>
          <OptionalQuantityInput
            label="Turn back from the far point at"
            quantity="percent"
            min={20}
            max={100}
            first={50}
            value={turnBack}
            onChange={setTurnBack}
          />
          <OptionalQuantityInput
            label="Lowest return height"
            quantity="length"
            min={10}
            max={120}
            first={30}
            value={height}
            onChange={setHeight}
          />
        </>
      )}
      <Typography id="sure" sx={{ fontWeight: 700, mt: 1 }}>
        How sure are you of what you do?
      </Typography>
      <ToggleButtonGroup
        exclusive
        fullWidth
        aria-labelledby="sure"
        value={sure}
        onChange={(_, value: number | null) => value !== null && setSure(value)}
      >
        {SURE.map((value) => (
          <ToggleButton key={value} value={value} sx={{ minHeight: 48, px: 0.5 }}>
            {value}%
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Button
        variant="contained"
        fullWidth
        sx={{ minHeight: 56, mt: 1.5 }}
        disabled={open.length > 0 || busy}
        onClick={() =>
          onAnswer({
            uid,
            word: word!,
            sure_pct: sure!,
            tightest,
            turn_back_pct: turnBack,
            return_height_m: height,
            ago_s: 0,
          })
        }
      >
        Mark it
      </Button>
      {open.length > 0 && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 0.5 }}>
          Still open: {open.join(", ")}.
        </Typography>
      )}
    </Panel>
  );
}
