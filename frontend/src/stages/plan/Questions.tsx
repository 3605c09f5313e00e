import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { Plan, Result } from "../../api/client";
import { OptionalQuantityInput } from "../../inputs/QuantityInput";
import { Choice } from "../../inputs/fields";
import { confirmed } from "./evidence";
import type { Change } from "../../editing/change";

const COMPASS = { unasked: "Not confirmed yet", yes: "In order", no: "Needs calibrating" } as const;
const HOME = { unasked: "Not known yet", yes: "Confirmed here", no: "Not set" } as const;

function answer(given: boolean | null | undefined): "unasked" | "yes" | "no" {
  return given == null ? "unasked" : given ? "yes" : "no";
}

/** Whether something was answered that only the powered aircraft can tell. */
export function onSite(plan: Plan): boolean {
  const { satellites, home_point_set: home, compass_checked: compass } = plan.settings;
  return [satellites, home, compass].some((answer) => answer != null);
}

/** What is not known and can be asked, with the answer beside it where there is one to give. */
export function Questions({
  plan,
  result,
  change,
}: {
  plan: Plan;
  result: Result;
  change: Change<Plan>;
}) {
  const { settings } = plan;
  const confirm = (key: string) => change(["evidence"], confirmed(plan, key, new Date()).evidence);
  const asked = new Set(result.questions.map((q) => q.id));
  return (
    <>
      <Box component="ul" aria-label="Questions" sx={{ m: 0, pl: 2.5 }}>
        {result.questions.map((q) => (
          <li key={q.id}>
            {q.question}{" "}
            {q.key && (
              <Button size="small" onClick={() => confirm(q.key!)}>
                Confirm
              </Button>
            )}
            {!q.matters && (
              <Typography component="span" variant="body2" color="text.secondary">
                on site
              </Typography>
            )}
          </li>
        ))}
      </Box>
      {(asked.has("signal.satellites") || settings.satellites != null) && (
        <OptionalQuantityInput
          label="Satellites"
          quantity="count"
          value={settings.satellites}
          first={12}
          min={0}
          max={30}
          most={60}
          unknown="not read yet"
          onChange={(v) => change(["settings", "satellites"], v === null ? null : Math.round(v))}
        />
      )}
      {(asked.has("signal.home_point") || settings.home_point_set != null) && (
        <Choice
          label="Home point"
          value={answer(settings.home_point_set)}
          options={HOME}
          onChange={(v) =>
            change(["settings", "home_point_set"], v === "unasked" ? null : v === "yes")
          }
        />
      )}
      {(asked.has("signal.compass") || settings.compass_checked != null) && (
        <Choice
          label="Compass"
          value={answer(settings.compass_checked)}
          options={COMPASS}
          onChange={(v) =>
            change(["settings", "compass_checked"], v === "unasked" ? null : v === "yes")
          }
        />
      )}
    </>
  );
}
