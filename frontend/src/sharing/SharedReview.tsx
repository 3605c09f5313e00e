import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import Radio from "@mui/material/Radio";
import RadioGroup from "@mui/material/RadioGroup";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Place, Plan, Problem } from "../api/client";
import { usePlaceActions } from "../api/places";
import { useJudging, useSessionActions } from "../api/queries";
import type { Shared } from "../api/sharing";
import { Panel } from "../shell/Panel";
import { ProblemNote } from "../shell/notes";
import { useUnits } from "../shell/preferences";
import { Seal } from "../shell/Seal";
import { momentHere } from "../shell/time";
import { headline } from "../stages/plan/headline";
import { inARow } from "./words";

/** What another pilot gave, before anything of it is kept. */
export function SharedReview({ shared, onAgain }: { shared: Shared; onAgain: () => void }) {
  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 820 }}>
      {shared.plan ? (
        <OfASession shared={shared} plan={shared.plan} onAgain={onAgain} />
      ) : (
        <OfAPlace shared={shared} place={shared.place!} onAgain={onAgain} />
      )}
    </Box>
  );
}

function Head({ title, under, shared }: { title: string; under: string; shared: Shared }) {
  return (
    <>
      <Typography variant="h1">{title}</Typography>
      <Typography color="text.secondary" sx={{ mb: 1 }}>
        {under}
        {shared.made_at && ` · shared ${momentHere(shared.made_at)}`}
      </Typography>
      {shared.left_out.length > 0 && (
        <Alert severity="warning" icon={false} sx={{ border: 1, mb: 1 }}>
          It comes without its {inARow(shared.left_out)}.
          {shared.left_out.includes("terrain") &&
            " Lark then knows nothing of the hills there: ask for the file."}
        </Alert>
      )}
    </>
  );
}

/** What is drawn in a place, counted. */
function Drawn({ place }: { place: Place }) {
  const features = place.features.length;
  const zones = place.zones?.length ?? 0;
  return (
    <Typography>
      {features === 1 ? "One thing is" : `${features} things are`} drawn in it
      {zones > 0 && `, ${zones === 1 ? "one zone" : `${zones} zones`}`}
      {place.terrain ? ", with terrain" : ", without terrain"}
      {place.surface ? " and surface model" : ""}.
    </Typography>
  );
}

function OfASession({
  shared,
  plan,
  onAgain,
}: {
  shared: Shared;
  plan: Plan;
  onAgain: () => void;
}) {
  const units = useUnits();
  const [whose, setWhose] = useState<"mine" | "theirs">("mine");
  const navigate = useNavigate();
  const { importPlan } = useSessionActions();
  const own = shared.own;
  const [mine] = useState(() => (own ? { ...plan, minimums: own } : plan));
  const taken = whose === "mine" ? mine : plan;
  const { result, waiting, problem } = useJudging(taken, units);
  const refused = (importPlan.error ?? problem) as Problem | null;
  return (
    <>
      <Head title={plan.title} under={headline(plan)} shared={shared} />
      <Seal plan={taken} result={result} waiting={waiting} />
      <Panel title="Whose minimums" hint="what it is checked by">
        <RadioGroup
          aria-label="Whose minimums"
          value={whose}
          onChange={(_, value) => setWhose(value as typeof whose)}
        >
          <FormControlLabel value="mine" control={<Radio />} label="Mine" />
          <FormControlLabel value="theirs" control={<Radio />} label="The other pilot’s" />
        </RadioGroup>
      </Panel>
      <Panel title="What is in it">
        {plan.place ? <Drawn place={plan.place} /> : <Typography>No drawn place.</Typography>}
        <Typography>
          {plan.forecast ? "The forecast comes with it." : "No forecast comes with it."}
        </Typography>
        <Typography sx={{ mt: 1 }}>
          Heights, wind and looks are the other pilot’s. Look and measure yourself before you fly by
          them. Aircraft and battery are yours where your gear has them under the same name.
        </Typography>
      </Panel>
      {refused && <ProblemNote problem={refused} />}
      <Actions
        words="Take it as a new session"
        busy={importPlan.isPending}
        onTake={() =>
          importPlan.mutate(JSON.stringify(taken), {
            onSuccess: (made) => void navigate(`/sessions/${made.id}/plan`),
          })
        }
        onAgain={onAgain}
      />
    </>
  );
}

function OfAPlace({
  shared,
  place,
  onAgain,
}: {
  shared: Shared;
  place: Place;
  onAgain: () => void;
}) {
  const navigate = useNavigate();
  const { add } = usePlaceActions();
  return (
    <>
      <Head title={place.name} under="A place" shared={shared} />
      <Panel title="What is in it">
        <Drawn place={place} />
        <Typography sx={{ mt: 1 }}>
          Heights are the other pilot’s. Look and measure yourself before you fly by them.
        </Typography>
      </Panel>
      {add.error && <ProblemNote problem={add.error as Problem} />}
      <Actions
        words="Take it as a new place"
        busy={add.isPending}
        onTake={() =>
          add.mutate(place, { onSuccess: (made) => void navigate(`/places/${made.id}`) })
        }
        onAgain={onAgain}
      />
    </>
  );
}

function Actions({
  words,
  busy,
  onTake,
  onAgain,
}: {
  words: string;
  busy: boolean;
  onTake: () => void;
  onAgain: () => void;
}) {
  return (
    <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
      <Button variant="contained" sx={{ minHeight: 48 }} disabled={busy} onClick={onTake}>
        {words}
      </Button>
      <Button variant="outlined" sx={{ minHeight: 48 }} onClick={onAgain}>
        Leave it
      </Button>
    </Box>
  );
}
