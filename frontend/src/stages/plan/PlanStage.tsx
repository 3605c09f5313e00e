import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Suspense, useEffect, useMemo, useState } from "react";
import { Link } from "react-router";
import type { Fix, Plan } from "../../api/client";
import { useJudging } from "../../api/queries";
import { Decisions } from "../../decisions/Decisions";
import { DecisionDialog, fetchDecisionDialog } from "../../decisions/LazyDecisionDialog";
import { usePreferences } from "../../shell/preferences";
import { ProblemNote } from "../../shell/notes";
import { EditorButtons } from "../../editing/EditorNotes";
import { Panel } from "../../shell/Panel";
import { useWide } from "../../shell/useWide";
import { useUndoKeys } from "../../shell/useUndoKeys";
import { Board } from "./Board";
import type { Change } from "../../editing/change";
import type { Path } from "../../editing/history";
import { Toggle } from "../../inputs/fields";
import { unconfirmed } from "./evidence";
import { headline } from "./headline";
import { AircraftInputs } from "./inputs/AircraftInputs";
import { AirInputs } from "./inputs/AirInputs";
import { ControllerInputs, FlightInputs, LiftOff } from "./inputs/FlightInputs";
import { PlaceInputs } from "./inputs/PlaceInputs";
import { withFix } from "./Fixes";
import {
  batteryAnswer,
  limitsAnswer,
  mapAnswer,
  PlanViews,
  useWhenAnswer,
  type View,
} from "./PlanViews";
import { onSite, Questions } from "./Questions";
import { StricterForecasts } from "./StricterForecasts";
import { TitleInput } from "./TitleInput";
import { Unconfirmed } from "./Unconfirmed";
import { useRoom } from "../SessionRoom";
import { StageFrame } from "../StageFrame";
import { useForecast } from "./when/useForecast";
import { Cut, LandPanel, OutAndBack, ShareDialog, WhenPanel } from "./lazyViews";

/** The verdict first; what opens at a touch right after it. */
const SETTLED_MS = 500;

export function PlanStage() {
  const { id, editor } = useRoom();
  const { units } = usePreferences();
  const { plan } = editor;
  const [tried, setTried] = useState<Fix | null>(null);
  const shown = useMemo(() => (tried ? withFix(plan, tried) : plan), [plan, tried]);
  const forecast = useForecast(plan, editor.replace);
  const change: Change<Plan> = (path: Path, value: unknown) => {
    setTried(null); // a fix was sought for the plan as it was
    editor.changeNamed(path, value);
    if (path[0] === "takeoff_at") forecast.follow(value as string);
  };
  const { result, waiting, problem, retry } = useJudging(shown, units);
  const [deciding, setDeciding] = useState(false);
  const [sharing, setSharing] = useState(false);
  const judged = result !== undefined;
  useEffect(() => {
    if (judged) setTimeout(fetchDecisionDialog, SETTLED_MS);
  }, [judged]);
  const [doubtful, setDoubtful] = useState(false);
  const inputs = { plan, result, change };
  const wide = useWide();
  const when = useWhenAnswer(shown);

  useEffect(() => {
    document.title = `${plan.title} · Lark`;
  }, [plan.title]);

  const { undo, redo } = editor;
  useUndoKeys(undo, redo);

  // Unknown things that keep the verdict open come first; what waits for the site comes last.
  const urgent = result?.questions.some((q) => q.matters) ?? false;
  const questions = result && (result.questions.length > 0 || onSite(plan)) && (
    <Panel title="Questions" hint="what is not known yet">
      <Questions plan={plan} result={result} change={change} />
    </Panel>
  );

  const heading = (
    <>
      <TitleInput value={plan.title} onChange={(v) => change(["title"], v)} />
      <Typography color="text.secondary">{headline(plan)}</Typography>
      <Box
        sx={{
          display: "flex",
          alignItems: "center",
          gap: 0.5,
          ml: -1.5,
          flexWrap: "wrap",
        }}
      >
        <EditorButtons editor={editor} />
        <Box sx={{ flex: 1 }} />
        <Button variant="text" component={Link} to={`/sessions/${id}/compare`}>
          Compare
        </Button>
        <Button variant="text" onClick={() => setSharing(true)}>
          Share
        </Button>
        <Button
          variant="contained"
          fullWidth={!wide}
          sx={{ width: { md: "auto" }, ml: { xs: 1.5, md: 0 }, mb: { xs: 1, md: 0 } }}
          onClick={() => setDeciding(true)}
          disabled={!result || tried !== null}
        >
          Record a decision
        </Button>
      </Box>
    </>
  );

  const sheet = (
    <Box component="section" aria-label="The plan">
      <LiftOff plan={plan} change={change} />
      <Toggle
        label={`Show what nobody has confirmed: ${unconfirmed(plan).length}`}
        value={doubtful}
        onChange={setDoubtful}
      />
      {doubtful ? (
        <Unconfirmed plan={plan} replace={editor.replace} />
      ) : (
        <>
          <AirInputs {...inputs} back={forecast.back} />
          <FlightInputs {...inputs} />
          <ControllerInputs {...inputs} />
          <AircraftInputs {...inputs} />
          <PlaceInputs {...inputs} />
        </>
      )}
    </Box>
  );
  const replace = (next: Plan) => {
    setTried(null);
    editor.replace(next);
  };
  const views: View[] = [];
  if (!wide) views.push({ key: "inputs", name: "Inputs", content: sheet });
  if (result) {
    views.push({
      key: "limits",
      name: "Limits",
      answer: wide ? limitsAnswer(result) : undefined,
      content: (
        <>
          <Panel title="Limits" hint="select one to see how it was calculated">
            <Board result={result} trying={{ plan, tried, setTried }} />
          </Panel>
          {!urgent && questions}
        </>
      ),
    });
    views.push({
      key: "battery",
      name: "Battery",
      answer: wide ? batteryAnswer(result) : undefined,
      content: (
        <Panel title="Out and back" hint="charge over distance">
          <OutAndBack plan={shown} result={result} />
        </Panel>
      ),
    });
    if (!plan.site.indoors)
      views.push({
        key: "when",
        name: "When",
        answer: wide ? (when ?? "…") : undefined,
        content: (
          <Panel title="When" hint="two days, every half hour checked">
            <WhenPanel sessionId={id} plan={plan} replace={replace} />
          </Panel>
        ),
      });
    if (!plan.site.indoors)
      views.push({
        key: "map",
        name: "Map",
        answer: wide ? mapAnswer(result, shown) : undefined,
        content:
          plan.site.place != null ? (
            <Panel title="Map" hint="drag the take-off or the far point">
              <LandPanel
                sessionId={id}
                plan={plan}
                shown={shown}
                result={result}
                change={change}
                replace={replace}
              />
            </Panel>
          ) : (
            <Panel title="What stands in the way" hint="out, home and the radio, in a cut">
              <Cut plan={shown} change={change} />
            </Panel>
          ),
      });
  }

  return (
    <StageFrame plan={shown} result={result} waiting={waiting} heading={heading}>
      {tried && (
        <Alert
          severity="info"
          icon={false}
          sx={{ mx: { xs: 1, md: 0 }, mb: 1, border: 1 }}
          action={
            <>
              <Button
                color="inherit"
                onClick={() => {
                  editor.replace(shown);
                  setTried(null);
                }}
              >
                Apply
              </Button>
              <Button color="inherit" onClick={() => setTried(null)}>
                Cancel
              </Button>
            </>
          }
        >
          Preview: {tried.sentence} Not applied yet.
        </Alert>
      )}
      {problem && <ProblemNote problem={problem} again={retry} />}
      {result && !plan.site.indoors && <StricterForecasts plan={shown} />}

      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0,1fr)", md: "310px minmax(0,1fr)" },
          gap: 1.5,
          px: { xs: 1, md: 0 },
          alignItems: "start",
        }}
      >
        {wide && sheet}
        <Box
          sx={{
            position: { md: "sticky" },
            top: { md: 128 },
            // Taller than the window, it scrolls by itself, so that its end is never out of reach.
            maxHeight: { md: "calc(100vh - 136px)" },
            overflowY: { md: "auto" },
            minWidth: 0,
          }}
        >
          {urgent && questions}
          {views.length > 0 && <PlanViews label="Views of the plan" views={views} />}
          <Decisions sessionId={id} />
        </Box>
      </Box>
      <Suspense fallback={null}>
        {sharing && (
          <ShareDialog
            what={{ kind: "session", id }}
            name={plan.title}
            flush={editor.flush}
            onClose={() => setSharing(false)}
          />
        )}
        {deciding && result && (
          <DecisionDialog
            sessionId={id}
            result={result}
            plan={plan}
            flush={editor.flush}
            onClose={() => setDeciding(false)}
          />
        )}
      </Suspense>
    </StageFrame>
  );
}
