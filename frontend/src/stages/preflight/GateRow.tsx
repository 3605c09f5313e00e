import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useRef, useState } from "react";
import type { GateItem, Plan, Said } from "../../api/client";
import type { Change } from "../../editing/change";
import { clock } from "../../shell/time";
import { OwnBattery } from "./OwnBattery";
import { OptionalQuantityInput } from "../../inputs/QuantityInput";
import type { Quantity } from "../../units/units";

type Kind = NonNullable<GateItem["value"]>["kind"];

/**
 * Where each value belongs in the plan. Charge and return height are always something; only what may be unknown can
 * be cleared.
 */
const NUMBERS: Partial<
  Record<
    Kind,
    {
      /** null: the answer itself keeps it. */
      put: ((change: Change<Plan>, value: number | null) => void) | null;
      quantity: Quantity;
      label: string;
      max: number;
      most: number;
      first: number;
    }
  >
> = {
  charge_pct: {
    put: (change, v) => v !== null && change(["pack", "charge_pct"], v),
    quantity: "percent",
    label: "Charge shown",
    max: 100,
    most: 100,
    first: 100,
  },
  pack_temperature_c: {
    put: (change, v) => change(["pack", "temperature_c"], v),
    quantity: "temperature",
    label: "Battery shown",
    max: 45,
    most: 60,
    first: 20,
  },
  card_min: {
    put: null,
    quantity: "minutes",
    label: "Free on the card",
    max: 240,
    most: 10_000,
    first: 60,
  },
  rth_altitude_m: {
    put: (change, v) => v !== null && change(["settings", "rth_altitude_m"], v),
    quantity: "length",
    label: "Set on the aircraft",
    max: 120,
    most: 1000,
    first: 40,
  },
  satellites: {
    put: (change, v) => change(["settings", "satellites"], v),
    quantity: "count",
    label: "Satellites shown",
    max: 30,
    most: 60,
    first: 12,
  },
};
const YES_NO: Partial<Record<Kind, "home_point_set" | "compass_checked">> = {
  home_point_set: "home_point_set",
  compass_checked: "compass_checked",
};

const STATUS = { pass: "✓", care: "care:", fail: "stop:", unknown: "open:" } as const;

/** So far to the right a finger ticks an item. */
const SWIPE_PX = 80;

/** One item: tick it, type its value, skip it with a reason, or call a fault. */
export function GateRow({
  item,
  say,
  change,
}: {
  item: GateItem;
  say: (answer: Said) => void;
  change: Change<Plan>;
}) {
  const from = useRef<{ x: number; y: number } | null>(null);
  const [how, setHow] = useState(false);
  const [skipping, setSkipping] = useState<string | null>(null);
  const { value, answer } = item;
  const done = answer?.word === "done";
  const faulty = answer?.word === "fault";
  // A value that is not entered, or that stops the flight, is not ticked through.
  const held = value !== null && (value.status === "unknown" || value.status === "fail");
  const tick = () =>
    say({ item: item.key, word: done ? null : "done", value: answer?.value ?? null, note: "" });
  return (
    <Box
      component="li"
      aria-label={item.text}
      onPointerDown={(e) => {
        if (e.pointerType === "touch") from.current = { x: e.clientX, y: e.clientY };
      }}
      onPointerUp={(e) => {
        const start = from.current;
        from.current = null;
        if (!start || done || held) return;
        if (e.clientX - start.x > SWIPE_PX && Math.abs(e.clientY - start.y) < SWIPE_PX / 2) tick();
      }}
      sx={{
        // Up and down scrolls; across is a swipe.
        touchAction: "pan-y",
        borderTop: 1,
        borderColor: "divider",
        py: 1,
        borderLeft: faulty ? "5px solid var(--stay)" : undefined,
        pl: faulty ? 1 : 0,
      }}
    >
      <Box sx={{ display: "flex", gap: 1.25, alignItems: "flex-start" }}>
        <Box
          component="button"
          type="button"
          role="checkbox"
          aria-checked={done}
          aria-label={item.text}
          aria-disabled={held && !done}
          data-tick
          onClick={() => (!held || done) && tick()}
          sx={{
            flexShrink: 0,
            width: 56,
            height: 56,
            borderRadius: "12px",
            border: "2px solid",
            borderColor: held && !done ? "divider" : "text.primary",
            bgcolor: done ? "var(--launch)" : "transparent",
            color: done ? "var(--onVerdict)" : "text.primary",
            fontSize: "1.6rem",
            fontWeight: 800,
            cursor: held && !done ? "not-allowed" : "pointer",
          }}
        >
          {done ? "✓" : answer?.word === "skip" ? "–" : faulty ? "✕" : ""}
        </Box>
        <Box sx={{ minWidth: 0, flex: 1 }}>
          <Typography sx={{ fontWeight: 700, fontSize: "1.1rem", lineHeight: 1.25 }}>
            {item.text}
          </Typography>
          <Typography variant="body2" color="text.secondary">
            {item.why}
            {answer &&
              answer.word !== "fault" &&
              ` · ${answer.word === "skip" ? "skipped" : "done"} ${time(answer.said_at)}`}
            {answer?.word === "skip" && `: ${answer.note}`}
          </Typography>
          {item.key === "display" && <OwnBattery />}
          {value && <ValueField item={item} say={say} change={change} />}
          {faulty && (
            <Typography role="alert" sx={{ fontWeight: 700, color: "var(--stay)" }}>
              {item.fault}
            </Typography>
          )}
          {how && (
            <Box component="ol" sx={{ my: 0.5, pl: 2.5 }}>
              {item.how.map((step) => (
                <li key={step}>{step}</li>
              ))}
            </Box>
          )}
          <Box sx={{ display: "flex", flexWrap: "wrap", ml: -0.75 }}>
            <Button size="small" aria-expanded={how} onClick={() => setHow(!how)}>
              {how ? "Less" : "How"}
            </Button>
            {!done && (
              <>
                <Button size="small" onClick={() => setSkipping(skipping === null ? "" : null)}>
                  Skip
                </Button>
                <Button
                  size="small"
                  onClick={() =>
                    say({
                      item: item.key,
                      word: faulty ? null : "fault",
                      value: answer?.value ?? null,
                      note: "",
                    })
                  }
                >
                  {faulty ? "Fixed" : "Fault"}
                </Button>
              </>
            )}
          </Box>
          {skipping !== null && !done && (
            <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
              <TextField
                autoFocus
                size="small"
                fullWidth
                label="Why is it skipped?"
                value={skipping}
                onChange={(e) => setSkipping(e.target.value)}
              />
              <Button
                variant="outlined"
                disabled={skipping.trim() === ""}
                onClick={() => {
                  say({
                    item: item.key,
                    word: "skip",
                    value: answer?.value ?? null,
                    note: skipping,
                  });
                  setSkipping(null);
                }}
              >
                Skip it
              </Button>
            </Box>
          )}
        </Box>
      </Box>
    </Box>
  );
}

function time(iso: string): string {
  const at = new Date(iso);
  const two = (n: number) => String(n).padStart(2, "0");
  return clock(`2000-01-01T${two(at.getHours())}:${two(at.getMinutes())}:00Z`);
}

function ValueField({
  item,
  say,
  change,
}: {
  item: GateItem;
  say: (answer: Said) => void;
  change: Change<Plan>;
}) {
  const value = item.value!;
  const number = NUMBERS[value.kind];
  const yesNo = YES_NO[value.kind];
  return (
    <Box sx={{ maxWidth: 420 }}>
      {number && (
        <OptionalQuantityInput
          label={number.label}
          quantity={number.quantity}
          first={number.first}
          min={number.quantity === "temperature" ? -20 : 0}
          least={number.quantity === "temperature" ? -60 : 0}
          max={number.max}
          most={number.most}
          slider={false}
          unknown="not entered"
          value={value.now === null ? null : Number(value.now)}
          onChange={(v) => {
            const whole = number.quantity === "count" && v !== null ? Math.round(v) : v;
            if (number.put) number.put(change, whole);
            else say({ item: item.key, word: item.answer?.word ?? "done", value: whole, note: "" });
          }}
        />
      )}
      {yesNo && (
        <Box sx={{ display: "flex", gap: 1, my: 0.5 }}>
          {[true, false].map((word) => (
            <Button
              key={String(word)}
              variant={value.now === word ? "contained" : "outlined"}
              aria-pressed={value.now === word}
              sx={{ minHeight: 48, minWidth: 80 }}
              onClick={() => change(["settings", yesNo], value.now === word ? null : word)}
            >
              {word ? "Yes" : "No"}
            </Button>
          ))}
        </Box>
      )}
      <Typography
        variant="body2"
        sx={{
          fontWeight: 650,
          color:
            value.status === "fail"
              ? "var(--stay)"
              : value.status === "care"
                ? "var(--care)"
                : "inherit",
        }}
      >
        {STATUS[value.status]} {value.sentence} Needs {value.wanted}.
      </Typography>
    </Box>
  );
}
