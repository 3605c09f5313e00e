import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import type { Problem } from "../../api/client";
import { useJudging } from "../../api/queries";
import { Decisions } from "../../decisions/Decisions";
import { DecisionDialog } from "../../decisions/DecisionDialog";
import { ProblemNote, Waiting } from "../../frame/notes";
import { Panel } from "../../frame/Panel";
import { usePreferences } from "../../frame/preferences";
import { useUndoKeys } from "../../frame/useUndoKeys";
import { useOnSite } from "../../saying/lists";
import { useSaying } from "../../saying/useSaying";
import { WaitingWords } from "../../saying/WaitingWords";
import { useRoom } from "../SessionRoom";
import { StageFrame } from "../StageFrame";
import { StageTitle } from "../StageTitle";
import { AircraftPanel } from "./AircraftPanel";
import { Drift } from "./Drift";
import { GateView } from "./GateView";
import { HoverCheck } from "./HoverCheck";
import { PocketCard } from "./PocketCard";
import { SettingsCard } from "./SettingsCard";

/** Aircraft open, before arming: gate by gate, what to dial in, a last look in the hover, the decision. */
export function WalkroundStage() {
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
            title={`Gate ${at + 1} of ${gates.length}`}
            hint={left ? `${left} items open in all` : "all gates are through"}
          >
            <Box
              component="nav"
              aria-label="Gates"
              sx={{ display: "flex", flexWrap: "wrap", gap: 0.75, mb: 1 }}
            >
              {gates.map((gate, i) => (
                <Button
                  key={gate.name}
                  size="small"
                  variant={i === at ? "contained" : "outlined"}
                  aria-current={i === at ? "step" : undefined}
                  onClick={() => setChosen(i)}
                >
                  {gate.stopped ? "✕ " : gate.open === 0 ? "✓ " : ""}
                  {gate.name}
                </Button>
              ))}
            </Box>
            {gates[at] && (
              <GateView
                key={gates[at].name}
                gate={gates[at]}
                say={say}
                change={editor.change}
                next={at + 1 < gates.length ? () => setChosen(at + 1) : undefined}
              />
            )}
          </Panel>
          <Box>
            <Panel title="From the aircraft" hint="read only: Lark never sends commands">
              <AircraftPanel plan={plan} card={site.data.card} put={editor.replace} />
            </Panel>
            {plan.site.platform.kind !== "ground" && (
              <Panel title="Home point" hint={`it stays, the ${plan.site.platform.kind} does not`}>
                <Drift sessionId={id} platform={plan.site.platform} change={editor.change} />
              </Panel>
            )}
            <Panel title="Settings card" hint="to dial in, line by line">
              <SettingsCard
                card={site.data.card}
                take={(path, value) => editor.change(path, value)}
              />
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
