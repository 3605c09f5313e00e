import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Look, Plan } from "../../api/client";
import { QuantityInput } from "../../inputs/QuantityInput";
import { withLook } from "./looks";

type Obstacle = Plan["site"]["obstacles"][number];

/** One question of the look-round. A yes changes the plan, or says what to do. */
export function LookRow({
  look,
  plan,
  say,
  put,
}: {
  look: Look;
  plan: Plan;
  /** What was found; null takes the answer back. */
  say: (note: string | null) => void;
  put: (plan: Plan) => void;
}) {
  const [asking, setAsking] = useState(false);
  const said = look.answer?.note ?? null;
  const yes = () => {
    put(withLook(plan, look, "yes"));
    if (["wires", "trees", "mast", "bearing"].includes(look.effect)) setAsking(true);
    if (!["wires", "trees", "mast"].includes(look.effect)) say("yes");
  };
  return (
    <Box
      component="li"
      aria-label={look.question}
      sx={{ borderTop: 1, borderColor: "divider", py: 1 }}
    >
      <Typography sx={{ fontWeight: 700 }}>{look.question}</Typography>
      <Typography variant="body2" color="text.secondary">
        {look.how}
      </Typography>
      <Box sx={{ display: "flex", gap: 1, mt: 0.5 }}>
        {(["no", "yes"] as const).map((word) => {
          const on = word === "no" ? said === "no" : said !== null && said !== "no";
          return (
            <Button
              key={word}
              variant={on ? "contained" : "outlined"}
              aria-pressed={on}
              sx={{ minHeight: 52, minWidth: 96 }}
              onClick={() => {
                if (!on && word === "yes") return yes();
                setAsking(false);
                put(withLook(plan, look, on ? null : "no"));
                say(on ? null : "no");
              }}
            >
              {word === "no" ? "No" : "Yes"}
            </Button>
          );
        })}
      </Box>
      {(asking || (said !== null && said !== "no")) && (
        <Typography sx={{ mt: 0.5 }}>{look.then}</Typography>
      )}
      {asking && look.effect === "bearing" && (
        <Turn
          plan={plan}
          done={(bearing_deg) => {
            // Nobody is under the way any more: it no longer counts.
            const turned = withLook(plan, look, null);
            put({ ...turned, flight: { ...turned.flight, bearing_deg } });
            setAsking(false);
          }}
        />
      )}
      {asking && ["wires", "trees", "mast"].includes(look.effect) && (
        <Found
          begin={
            look.effect === "wires"
              ? {
                  kind: "wires",
                  height_m: 11,
                  distance_m: 60,
                  bearing_deg: plan.flight.bearing_deg,
                  depth_m: 0,
                  known: "seen",
                }
              : look.effect === "mast"
                ? {
                    kind: "mast",
                    height_m: 10,
                    distance_m: 40,
                    bearing_deg: plan.flight.bearing_deg,
                    depth_m: 0,
                    known: "seen",
                  }
                : {
                    kind: "trees",
                    height_m: 15,
                    distance_m: 20,
                    bearing_deg: plan.flight.bearing_deg,
                    depth_m: 20,
                    known: "seen",
                  }
          }
          done={(found) => {
            put({ ...plan, site: { ...plan.site, obstacles: [...plan.site.obstacles, found] } });
            setAsking(false);
            say("yes");
          }}
        />
      )}
    </Box>
  );
}

function Found({ begin, done }: { begin: Obstacle; done: (found: Obstacle) => void }) {
  const [found, setFound] = useState(begin);
  const set = (changed: Partial<Obstacle>) => setFound({ ...found, ...changed });
  return (
    <Box sx={{ maxWidth: 420 }}>
      <QuantityInput
        label="How high"
        quantity="length"
        min={0}
        max={60}
        most={1000}
        value={found.height_m}
        onChange={(height_m) => set({ height_m })}
      />
      <QuantityInput
        label="How far"
        quantity="length"
        min={0}
        max={500}
        most={20_000}
        value={found.distance_m}
        onChange={(distance_m) => set({ distance_m })}
      />
      <QuantityInput
        label="In which direction"
        quantity="angle"
        min={0}
        max={360}
        step={5}
        value={found.bearing_deg}
        onChange={(bearing_deg) => set({ bearing_deg })}
      />
      <Button variant="contained" sx={{ minHeight: 52 }} onClick={() => done(found)}>
        Add to plan
      </Button>
    </Box>
  );
}

function Turn({ plan, done }: { plan: Plan; done: (bearing: number) => void }) {
  const [bearing, setBearing] = useState(plan.flight.bearing_deg);
  return (
    <Box sx={{ maxWidth: 420 }}>
      <QuantityInput
        label="Fly towards"
        quantity="angle"
        min={0}
        max={360}
        step={5}
        value={bearing}
        onChange={setBearing}
      />
      <Button variant="contained" sx={{ minHeight: 52 }} onClick={() => done(bearing)}>
        Fly that way
      </Button>
    </Box>
  );
}
