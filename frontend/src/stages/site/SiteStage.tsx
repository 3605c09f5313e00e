import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect } from "react";
import { Link } from "react-router";
import type { Problem } from "../../api/client";
import { useJudging } from "../../api/queries";
import { ProblemNote, Waiting } from "../../shell/notes";
import { Panel } from "../../shell/Panel";
import { usePreferences } from "../../shell/preferences";
import { useUndoKeys } from "../../shell/useUndoKeys";
import { useOnSite } from "../../outbox/lists";
import { useSaying } from "../../outbox/useSaying";
import { WaitingWords } from "../../outbox/WaitingWords";
import { AirInputs } from "../plan/inputs/AirInputs";
import { useForecast } from "../plan/when/useForecast";
import { useRoom } from "../SessionRoom";
import { StageFrame } from "../StageFrame";
import { StageTitle } from "../StageTitle";
import { FromThisDevice } from "./FromThisDevice";
import { HeightsToConfirm } from "./HeightsToConfirm";
import { LookRow } from "./LookRow";
import { WindMeter } from "./WindMeter";

/** On arrival: what stands and moves there, and the wind that really blows. */
export function SiteStage() {
  const { id, editor } = useRoom();
  const forecast = useForecast(editor.plan, editor.replace);
  const { plan } = editor;
  const { units } = usePreferences();
  const { result, waiting } = useJudging(plan, units);
  const site = useOnSite(id, plan, units);
  const say = useSaying(id, "look_round");
  useEffect(() => {
    document.title = `${plan.title}, on site · Lark`;
  }, [plan.title]);
  useUndoKeys(editor.undo, editor.redo);

  const open = site.data?.looks.filter((l) => l.answer === null).length ?? 0;
  const measured = plan.weather.winds.some((w) => w.source === "measured");
  return (
    <StageFrame plan={plan} result={result} waiting={waiting} heading={<StageTitle />}>
      {site.error && (
        <ProblemNote problem={site.error as Problem} again={() => void site.refetch()} />
      )}
      {site.isPending && <Waiting what="the questions of this place" />}
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
          <Panel title="Site survey" hint={open ? `${open} open` : "all answered"}>
            <WaitingWords session={id} lists={["look_round"]} />
            <Box component="ul" aria-label="Site survey" sx={{ listStyle: "none", m: 0, p: 0 }}>
              {site.data.looks.map((look) => (
                <LookRow
                  key={look.key}
                  look={look}
                  plan={plan}
                  say={(note) =>
                    say({
                      item: look.key,
                      word: note === null ? null : "done",
                      value: null,
                      note: note ?? "",
                    })
                  }
                  put={editor.replace}
                />
              ))}
            </Box>
            <Button
              component={Link}
              to={`/sessions/${id}/preflight`}
              variant="contained"
              fullWidth
              sx={{ minHeight: 56 }}
            >
              On to the preflight
            </Button>
          </Panel>
          <Box>
            <HeightsToConfirm plan={plan} />
            {!plan.site.indoors && <FromThisDevice plan={plan} change={editor.change} />}
            {!plan.site.indoors && (
              <Panel title="The wind here" hint="measured against forecast">
                {site.data.feels && (
                  <Alert severity="info" icon={false} sx={{ border: 1, mb: 1 }}>
                    {site.data.feels}
                  </Alert>
                )}
                {site.data.differences.map((d) => (
                  <Alert
                    key={d.height_m}
                    severity={d.stronger ? "warning" : "info"}
                    icon={false}
                    sx={{ border: 1, mb: 1 }}
                  >
                    {d.sentence}
                  </Alert>
                ))}
                {!measured && (
                  <Typography sx={{ mb: 1 }}>
                    Nothing is measured yet. Add a wind below: by hand meter, by what leaves and
                    water do, or by the tilt in a hover. The verdict follows it.
                  </Typography>
                )}
                {measured && site.data.differences.length === 0 && (
                  <Typography sx={{ mb: 1 }}>
                    No forecast to compare the measured wind with.
                  </Typography>
                )}
                <WindMeter
                  plan={plan}
                  add={(winds) => editor.change(["weather", "winds"], winds)}
                />
                <AirInputs
                  back={forecast.back}
                  plan={plan}
                  result={result}
                  change={editor.change}
                />
              </Panel>
            )}
          </Box>
        </Box>
      )}
    </StageFrame>
  );
}
