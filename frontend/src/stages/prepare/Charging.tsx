import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Outing, Ready } from "../../api/client";
import { useUnits } from "../../shell/preferences";
import { clock, day } from "../../shell/time";
import { OptionalQuantityInput } from "../../inputs/QuantityInput";
import { METRIC, written } from "../../units/units";
import type { SetOuting } from "./props";

function span(minutes: number): string {
  const whole = Math.ceil(minutes);
  return whole >= 60 ? `${Math.floor(whole / 60)} h ${whole % 60} min` : `${whole} min`;
}

/** What a power bank does in the field for the packs that are taken. */
function bankSays(bank: Ready["schedule"]["banks"][number]): string {
  const short =
    bank.needs_volts !== null && bank.volts !== null
      ? `a battery is charged with ${written(bank.needs_volts, "voltage", METRIC)} and it gives ${written(bank.volts, "voltage", METRIC)}`
      : null;
  if (bank.fills === 0 && short !== null)
    return `${bank.name}: charges none of these batteries; ${short}.`;
  const fills = `${bank.name}: fills ${bank.fills === 0 ? "none" : bank.fills} of these batteries from empty in the field`;
  if (short !== null) return `${fills}; for the next, ${short}.`;
  if (bank.fills === 0) return `${fills}.`;
  return bank.each_min === null
    ? `${fills}, if it gives the volts and amps that their charger asks for.`
    : `${fills}, one in ${span(bank.each_min)}.`;
}

const plain = (pct: number) => Math.round(pct);

/** What goes on which charger, in which order, from when; what is ready if there is less time; keeping warm. */
export function Charging({ ready, outing, set }: { ready: Ready; outing: Outing; set: SetOuting }) {
  const { schedule, warm } = ready;
  const units = useUnits();
  const short = schedule.available_min !== null;
  return (
    <>
      {schedule.chargers.length === 0 && schedule.no_charger.length === 0 && (
        <Typography>Nothing needs charging for this session.</Typography>
      )}
      {short && (
        <Alert severity="warning" icon={false} sx={{ border: 1, mb: 1 }}>
          You have {span(schedule.available_min!)}, but charging takes {span(schedule.takes_min)}.
          Below is what can be ready, most important first.
        </Alert>
      )}
      {schedule.chargers.map((charger) => (
        <Box
          key={charger.name}
          component="section"
          aria-label={charger.name}
          sx={{ mb: 1, "@media print": { breakInside: "avoid" } }}
        >
          <Typography sx={{ fontWeight: 700 }}>
            {charger.name}, {written(charger.power_w, "watts", units)}
          </Typography>
          <Typography variant="body2" color="text.secondary">
            {charger.mode === "together" ? "Plugged in together" : "One after another"};{" "}
            {short
              ? "begin at once"
              : `start by ${day(charger.start_by).slice(0, 3)} ${clock(charger.start_by)} at the latest`}
          </Typography>
          <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
            {charger.jobs.map((job) => (
              <li key={job.name}>
                <b>
                  {job.kind === "pack" ? "Battery " : ""}
                  {job.name}
                </b>
                : {clock(job.begins_at)} to {clock(job.ends_at)}, {plain(job.from_pct)}%{" "}
                {job.to_pct < 99.5 ? `to ${plain(job.to_pct)}% only` : "to full"}
              </li>
            ))}
          </Box>
        </Box>
      ))}
      {schedule.untouched.length > 0 && (
        <Typography>
          Not charged in that time:{" "}
          {schedule.untouched.map((u) => `${u.name} (${plain(u.charge_pct)}%)`).join(", ")}.
        </Typography>
      )}
      {schedule.no_charger.length > 0 && (
        <Typography color="error">
          No charger in your gear takes {schedule.no_charger.join(", ")}.
        </Typography>
      )}
      {schedule.banks.map((bank) => (
        <Typography key={bank.name} variant="body2" color="text.secondary">
          {bankSays(bank)}
        </Typography>
      ))}
      <Box className="no-print">
        <OptionalQuantityInput
          label="Time available for charging"
          quantity="minutes"
          unknown="as long as it takes"
          first={Math.max(10, Math.round(schedule.takes_min / 2))}
          min={0}
          max={Math.max(240, Math.ceil(schedule.takes_min))}
          most={1440}
          value={outing.charge_min}
          onChange={(v) => set("charge_min", v)}
        />
      </Box>
      {warm && (
        <Alert severity="info" icon={false} sx={{ border: 1, mt: 1 }}>
          <b>Keep the batteries warm: about {warm.gain_min} min more flight time from each.</b> At{" "}
          {written(warm.air_c, "temperature", units)} a battery as cold as the air flies{" "}
          {Math.floor(warm.cold_min)} min down to your reserve; one from an inside pocket at{" "}
          {written(warm.pack_c, "temperature", units)} flies {Math.floor(warm.warm_min)} min. Carry
          them on you, not in the bag, and put in the next one only when you fly it.
        </Alert>
      )}
    </>
  );
}
