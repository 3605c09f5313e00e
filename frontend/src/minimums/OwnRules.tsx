import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import type { PilotSettings } from "../api/client";
import { Words } from "../inputs/fields";
import { OptionalQuantityInput, QuantityInput } from "../inputs/QuantityInput";

type Own = NonNullable<PilotSettings["own_rules"]>;

const BEGIN: Own = {
  name: "My own rules",
  height_m: 120,
  mass_steps_g: [250],
  people_m: null,
  people_from_g: null,
  airfield_m: null,
  airfield_from_g: null,
  note: "",
};

/** A rule set that the pilot writes down, where none of the shipped ones is theirs. */
export function OwnRules({
  settings,
  put,
}: {
  settings: PilotSettings;
  put: (settings: PilotSettings) => void;
}) {
  const own = settings.own_rules;
  if (!own) {
    return (
      <Button
        variant="outlined"
        sx={{ mt: 1 }}
        onClick={() => put({ ...settings, own_rules: BEGIN, rule_set: "own" })}
      >
        Write down my own rules
      </Button>
    );
  }
  const set = (to: Partial<Own>) => put({ ...settings, own_rules: { ...own, ...to } });
  return (
    <Box role="group" aria-label="My own rules" sx={{ mt: 1, maxWidth: 420 }}>
      <Words
        label="Name of the rules"
        value={own.name}
        required="Give them a name."
        max={80}
        onChange={(name) => set({ name })}
      />
      <QuantityInput
        label="Greatest height above the ground"
        quantity="length"
        value={own.height_m}
        min={1}
        max={1000}
        slider={false}
        onChange={(height_m) => set({ height_m })}
      />
      <Words
        label="Masses from which other rules apply, in g"
        value={own.mass_steps_g.join(", ")}
        required="At least one mass, like 250."
        onChange={(text) => {
          const steps = text
            .split(/[\s,;]+/)
            .map(Number)
            .filter((g) => Number.isFinite(g) && g > 0);
          if (steps.length > 0) set({ mass_steps_g: steps.slice(0, 12) });
        }}
      />
      <OptionalQuantityInput
        label="Distance from uninvolved people"
        unknown="not one number"
        quantity="length"
        value={own.people_m}
        first={30}
        min={0}
        max={5000}
        slider={false}
        onChange={(people_m) => set({ people_m })}
      />
      {own.people_m != null && (
        <OptionalQuantityInput
          label="That distance only from a weight of"
          unknown="every weight"
          quantity="grams"
          value={own.people_from_g}
          first={250}
          min={1}
          max={150_000}
          slider={false}
          onChange={(people_from_g) => set({ people_from_g })}
        />
      )}
      <OptionalQuantityInput
        label="Distance from airfields"
        unknown="not one number"
        quantity="length"
        value={own.airfield_m}
        first={5000}
        min={0}
        max={30_000}
        slider={false}
        onChange={(airfield_m) => set({ airfield_m })}
      />
      {own.airfield_m != null && (
        <OptionalQuantityInput
          label="That distance from airfields only from a weight of"
          unknown="every weight"
          quantity="grams"
          value={own.airfield_from_g}
          first={250}
          min={1}
          max={150_000}
          slider={false}
          onChange={(airfield_from_g) => set({ airfield_from_g })}
        />
      )}
      <Words
        label="What else they say"
        value={own.note}
        max={500}
        onChange={(note) => set({ note })}
      />
      <Button
        color="inherit"
        onClick={() => put({ ...settings, own_rules: null, rule_set: "general" })}
      >
        Throw my own rules away
      </Button>
    </Box>
  );
}
