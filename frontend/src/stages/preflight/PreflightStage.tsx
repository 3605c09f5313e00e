import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import type { Gate, Problem } from "../../api/client";
import { useJudging } from "../../api/queries";
import { Decisions } from "../../decisions/Decisions";
import { DecisionDialog } from "../../decisions/DecisionDialog";
import { DrillsDue } from "../../drills/DrillsDue";
import { ProblemNote, Waiting } from "../../shell/notes";
import { Panel } from "../../shell/Panel";
import { usePreferences } from "../../shell/preferences";
import { useUndoKeys } from "../../shell/useUndoKeys";
import { useOnSite } from "../../outbox/lists";
import { useSaying } from "../../outbox/useSaying";
import { WaitingWords } from "../../outbox/WaitingWords";
import { useRoom } from "../SessionRoom";
import { StageFrame } from "../StageFrame";
import { StageTitle } from "../StageTitle";
import { AircraftPanel } from "./AircraftPanel";
import { Drift } from "./Drift";
import { GateView } from "./GateView";
import { HoverCheck } from "./HoverCheck";
import { PocketCard } from "./PocketCard";
import { SettingsCard } from "./SettingsCard";

function gateMark({ stopped, open }: Gate): string {
  return stopped ? " ✕" : open === 0 ? " ✓" : ` · ${open}`;
}

function gateWord({ stopped, open }: Gate): string {
  return stopped ? "a fault stops it" : open === 0 ? "complete" : `${open} open`;
}

/** Aircraft open, before arming: gate by gate, what to dial in, a last look in the hover, the decision. */
export function PreflightStage() {
  const { id, editor } = useRoom();
  const { plan } = editor;
  const { units } = usePreferences();
  const { result, waiting } = useJudging(plan, units);
  const site = useOnSite(id, plan, units);
  const say = useSaying(id, "walkround");
  const [chosen, setChosen] = useState<number | null>(null);
  const [deciding, setDeciding] = useState(false);
  useEffect(() => {
    document.title = `${plan.title}, preflight · Lark`;
  }, [plan.title]);
  useUndoKeys(editor.undo, editor.redo);

  const gates = site.data?.gates ?? [];
  const firstOpen = gates.findIndex((g) => g.open > 0 || g.stopped);
  // It begins at the first gate that is open, and stays at a gate until the pilot goes on.
  if (chosen === null && gates.length > 0) setChosen(Math.max(firstOpen, 0));
  const at = Math.min(chosen ?? Math.max(firstOpen, 0), Math.max(gates.length - 1, 0));
  // The next step begins at the top, wherever the last one ended.
  const show = (step: number) => {
    setChosen(step);
    window.scrollTo({ top: 0 });
  };
  const left = gates.reduce((sum, g) => sum + g.open, 0);
  const stopped = gates.some((g) => g.stopped);

  return (
    <StageFrame plan={plan} result={result} waiting={waiting} heading={<StageTitle />}>
      {site.error && (
        <ProblemNote problem={site.error as Problem} again={() => void site.refetch()} />
      )}
      <Box sx={{ px: { xs: 1, md: 0 } }}>
        <WaitingWords session={id} lists={["walkround"]} />
      </Box>
      {site.isPending && <Waiting what="the preflight" />}
      {site.data && (
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,6fr) minmax(0,5fr)" },
            gap: { xs: 1, md: 1.5 },
            px: { xs: 1, md: 0 },
            alignItems: "start",
          }}
        >
          <Panel
            title={gates[at] ? `${at + 1}. ${gates[at].name}` : "Preflight"}
            hint={left ? `${left} items open` : "complete"}
          >
            <Box component="nav" aria-label="Steps" sx={{ display: "flex", gap: 0.75, mb: 0.5 }}>
              {gates.map((gate, i) => (
                <Button
                  key={gate.name}
                  size="small"
                  variant={i === at ? "contained" : "outlined"}
                  aria-current={i === at ? "step" : undefined}
                  aria-label={`${i + 1}${gateMark(gate)}: ${gate.name}, ${gateWord(gate)}`}
                  onClick={() => show(i)}
                  sx={{ flex: 1, minWidth: 0, minHeight: 48, whiteSpace: "nowrap" }}
                >
                  {i + 1}
                  {gateMark(gate)}
                </Button>
              ))}
            </Box>
            {gates[at] && (
              <GateView
                key={gates[at].name}
                gate={gates[at]}
                say={say}
                change={editor.change}
                next={at + 1 < gates.length ? () => show(at + 1) : undefined}
                back={at > 0 ? () => show(at - 1) : undefined}
              />
            )}
          </Panel>
          <Box>
            <DrillsDue session={id} firstFlights={plan.outing?.first_flights ?? false} only />
            <Panel title="From the aircraft" hint="read only: Lark never sends commands">
              <AircraftPanel plan={plan} card={site.data.card} put={editor.replace} />
            </Panel>
            {plan.site.platform.kind !== "ground" && (
              <Panel title="Home point" hint={`it stays, the ${plan.site.platform.kind} does not`}>
                <Drift sessionId={id} platform={plan.site.platform} change={editor.change} />
              </Panel>
            )}
            <Panel title="Settings to enter" hint="on the controller, line by line">
              <SettingsCard card={site.data.card} change={editor.change} />
            </Panel>
            {!plan.site.indoors && (
              <Panel title="Hover check" hint="before it goes anywhere">
                <HoverCheck plan={plan} result={result} change={editor.change} />
              </Panel>
            )}
            <Panel title="Pocket card" hint="black on white, for the hand">
              <PocketCard sessionId={id} flush={editor.flush} />
            </Panel>
            <Panel title="Decision" hint="saved with all its data">
              <Typography sx={{ mb: 1 }}>
                {stopped
                  ? "A fault is open. Fix it, wait or stand down."
                  : left
                    ? `${left} items of the preflight are still open.`
                    : "Preflight complete."}
              </Typography>
              <Button
                variant="contained"
                fullWidth
                sx={{ minHeight: 56 }}
                disabled={!result}
                onClick={() => setDeciding(true)}
              >
                Launch, wait or stand down
              </Button>
              <Decisions sessionId={id} />
            </Panel>
          </Box>
        </Box>
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
    </StageFrame>
  );
}
