import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { Aircraft, Sheet } from "../api/client";
import { useSheet } from "../api/kit";
import { OptionalQuantityInput, QuantityInput } from "../inputs/QuantityInput";
import { quantityOf } from "../units/units";
import type { Change } from "../editing/change";
import type { Path } from "../editing/history";
import { NameField, type ItemOf } from "./fields";

type Field = Sheet["fields"][number];

function valueAt(aircraft: Aircraft, key: string): number {
  let node: unknown = aircraft;
  for (const step of key.split(".")) node = (node as Record<string, unknown>)[step];
  return node as number;
}

/** Numbers that need more decimals than their quantity usually shows. */
const DIGITS: Record<string, number> = {
  size_m: 2,
  rotor_diameter_m: 3,
  "link.band_ghz": 2,
  battery_wh: 1,
};

/** An aircraft from its spec sheet: every number says where in a manual it usually stands. */
export function SheetFields({
  item,
  change,
  changeNamed,
  fresh,
}: {
  item: ItemOf<"aircraft">;
  change: Change<ItemOf<"aircraft">>;
  /** What the server names of a sheet. */
  changeNamed: (path: Path, value: number | null) => void;
  fresh: boolean;
}) {
  const sheet = useSheet();
  const { aircraft } = item;
  return (
    <>
      <NameField value={aircraft.name} onChange={(v) => change(["aircraft", "name"], v)} />
      {fresh && sheet.data && (
        <Box sx={{ my: 1 }}>
          <Typography variant="body2" color="text.secondary">
            Begin with a typical one, then put in your own manual’s numbers:
          </Typography>
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
            {sheet.data.classes.map((c) => (
              <Button
                key={c.label}
                size="small"
                variant="outlined"
                onClick={() =>
                  change(["aircraft"], { ...c.aircraft, name: aircraft.name || c.aircraft.name })
                }
              >
                {c.label}
              </Button>
            ))}
          </Box>
        </Box>
      )}
      {sheet.data?.fields.map((f) =>
        f.key === "temperature_c" ? (
          [0, 1].map((end) => (
            <SheetField
              key={end}
              field={{ ...f, label: `${f.label}, ${end === 0 ? "least" : "greatest"}` }}
              value={aircraft.temperature_c[end]!}
              onChange={(v) => change(["aircraft", "temperature_c", end], v)}
            />
          ))
        ) : MAY_BE_OPEN.has(f.key) ? (
          <OptionalSheetField
            key={f.key}
            field={f}
            value={valueAt(aircraft, f.key)}
            onChange={(v) => changeNamed(["aircraft", f.key], v)}
          />
        ) : (
          <SheetField
            key={f.key}
            field={f}
            value={valueAt(aircraft, f.key)}
            onChange={(v) => changeNamed(["aircraft", ...f.key.split(".")], v)}
          />
        ),
      )}
    </>
  );
}

/** What many manuals do not give. */
const MAY_BE_OPEN = new Set(["max_takeoff_g", "ceiling_m", "charge_power_w"]);
const FIRST: Record<string, number> = { max_takeoff_g: 300, ceiling_m: 4000, charge_power_w: 30 };

function OptionalSheetField({
  field,
  value,
  onChange,
}: {
  field: Field;
  value: number | null;
  onChange: (value: number | null) => void;
}) {
  return (
    <Box sx={{ borderTop: 1, borderColor: "divider", py: 0.25 }}>
      <OptionalQuantityInput
        label={field.label}
        quantity={quantityOf(field.unit)}
        unknown="the sheet gives none"
        first={FIRST[field.key] ?? field.least ?? 0}
        slider={false}
        min={field.least ?? 0}
        max={field.greatest ?? 1e6}
        value={value}
        onChange={onChange}
      />
      <Typography variant="body2" color="text.secondary" sx={{ mt: -0.5 }}>
        {field.where}
      </Typography>
    </Box>
  );
}

function SheetField({
  field,
  value,
  onChange,
}: {
  field: Field;
  value: number;
  onChange: (value: number) => void;
}) {
  const whole = field.key === "rotor_count";
  return (
    <Box sx={{ borderTop: 1, borderColor: "divider", py: 0.25 }}>
      <QuantityInput
        label={field.label}
        quantity={quantityOf(field.unit)}
        digits={DIGITS[field.key]}
        slider={false}
        min={field.least ?? 0}
        max={field.greatest ?? 1e6}
        value={value}
        onChange={(v) => onChange(whole ? Math.round(v) : v)}
      />
      <Typography variant="body2" color="text.secondary" sx={{ mt: -0.5 }}>
        {field.where}
      </Typography>
    </Box>
  );
}
