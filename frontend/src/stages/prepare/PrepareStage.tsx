import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect } from "react";
import { Link } from "react-router";
import type { Outing, Problem } from "../../api/client";
import { useReady } from "../../api/kit";
import { TakeAlong } from "../../along/TakeAlong";
import { useJudging } from "../../api/queries";
import { ProblemNote, Waiting } from "../../shell/notes";
import { Panel } from "../../shell/Panel";
import { usePreferences } from "../../shell/preferences";
import { useUndoKeys } from "../../shell/useUndoKeys";
import { DrillsDue } from "../../drills/DrillsDue";
import { DUE } from "../../gear/words";
import { useRoom } from "../SessionRoom";
import { StageFrame } from "../StageFrame";
import { StageTitle } from "../StageTitle";
import { Charging } from "./Charging";
import { Countdown } from "./Countdown";
import { DayInputs } from "./DayInputs";
import { Flights } from "./Flights";
import { planOfFlight } from "./outing";
import { KitList } from "./KitList";
import { PackChoices } from "./PackChoices";
import { Subjects } from "./Subjects";

/** The evening before: the countdown, what to charge and when, which pack for which shot, the packing list. */
export function PrepareStage() {
  const { id, editor, revision } = useRoom();
  const { units } = usePreferences();
  const { plan } = editor;
  const { result, waiting } = useJudging(plan, units);
  const ready = useReady(plan, units);
  useEffect(() => {
    document.title = `${plan.title}, prepare · Lark`;
  }, [plan.title]);
  useUndoKeys(editor.undo, editor.redo);

  const data = ready.data;
  const outing = plan.outing ?? data?.outing;
  const set = <K extends keyof Outing>(key: K, value: Outing[K]) => {
    if (plan.outing) editor.change(["outing", key], value);
    else if (outing) editor.change(["outing"], { ...outing, [key]: value });
  };
  const put = (changed: Partial<Outing>) =>
    outing && editor.replace({ ...plan, outing: { ...outing, ...changed } });

  const list = data && (
    <Panel title="Packing list" hint="saved as you tick">
      <KitList sessionId={id} ready={data} />
    </Panel>
  );
  return (
    <StageFrame
      plan={plan}
      result={result}
      waiting={waiting}
      heading={
        <StageTitle>
          <Button variant="outlined" onClick={() => window.print()}>
            Print
          </Button>
        </StageTitle>
      }
    >
      {ready.error && (
        <ProblemNote problem={ready.error as Problem} again={() => void ready.refetch()} />
      )}
      {ready.isPending && <Waiting what="what there is to do" />}
      {data && outing && (
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,5fr) minmax(0,6fr)" },
            gap: { xs: 1, md: 1.5 },
            px: { xs: 1, md: 0 },
            alignItems: "start",
            "@media print": { display: "block" },
          }}
        >
          <Box>
            <Panel title="Countdown" hint="counted back from take-off">
              <Countdown ready={data} sessionId={id} flush={editor.flush} />
              <DayInputs outing={outing} set={set} put={put} />
            </Panel>
            {list}
            <DrillsDue session={id} firstFlights={outing.first_flights} />
            <Panel title="Take along" hint="for a place without reception">
              <TakeAlong id={id} revision={revision} flush={editor.flush} />
            </Panel>
          </Box>
          <Box>
            <Panel title="Batteries" hint="what is left in them, and what to do">
              {data.aircraft === null && (
                <Typography>
                  No aircraft in your gear is called {plan.aircraft.name}, so no battery is known to
                  fit it. <Link to="/gear">Add it to your gear</Link>, or take another one in the
                  plan.
                </Typography>
              )}
              <PackChoices ready={data} outing={outing} put={put} />
              {data.due.length > 0 && (
                <Box sx={{ borderTop: 1, borderColor: "divider", mt: 0.5, pt: 0.75 }}>
                  <Typography variant="h3">
                    Maintenance due: {plan.aircraft.name}{" "}
                    <Link to={`/gear/${data.aircraft}/upkeep`} className="no-print">
                      (maintenance log)
                    </Link>
                  </Typography>
                  <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
                    {data.due.map((d) => (
                      <li key={d.work}>
                        <b>{DUE[d.work]}.</b> {d.why}
                      </li>
                    ))}
                  </Box>
                </Box>
              )}
            </Panel>
            <Panel title="Charging" hint="everything full when the bag is packed">
              <Charging ready={data} outing={outing} set={set} />
            </Panel>
            <Panel title="Batteries and shots" hint="fewest batteries, reserve kept">
              <Flights
                ready={data}
                plan={plan}
                outing={outing}
                put={put}
                fly={(flight) => editor.replace(planOfFlight(plan, outing, flight, data))}
              />
              <Subjects plan={plan} outing={outing} set={set} put={put} />
            </Panel>
          </Box>
        </Box>
      )}
    </StageFrame>
  );
}
