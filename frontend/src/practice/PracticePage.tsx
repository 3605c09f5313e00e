import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect } from "react";
import { Link } from "react-router";
import type { Problem } from "../api/client";
import {
  usePractice,
  useSendingSaid,
  type FamilyNow,
  type Room,
  type RoomNow,
} from "../api/practice";
import { useDrillsNow } from "../api/drills";
import { useHoming } from "../api/homeward";
import { nextWords } from "../drills/DrillsDue";
import { FieldDrills } from "../drills/FieldDrills";
import { courseWords } from "../drills/words";
import { useNextSession } from "../drills/useNextSession";
import { EyePanel } from "../eye/EyePanel";
import { HomePanel } from "../homeward/HomePanel";
import { Panel } from "../shell/Panel";
import { ProblemNote, Waiting } from "../shell/notes";
import { useNow } from "../shell/useNow";
import { WithoutServer } from "./WithoutServer";
import { OverTime } from "./OverTime";
import { CALIBRATION, dueIn, GOING, TONES, WHY } from "./words";

/** The room to practise in: what to do today, and how every family of cases goes. */
export function PracticePage() {
  const room = usePractice();
  const waiting = useSendingSaid();
  const now = useNow();
  useEffect(() => {
    document.title = "Practice · Lark";
  }, []);
  if (room.error)
    return <ProblemNote problem={room.error as Problem} again={() => void room.refetch()} />;
  if (!room.data) return <Waiting what="what to practise" />;
  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 980 }}>
      <Typography variant="h1">Practice</Typography>
      <Typography color="text.secondary" sx={{ mb: 1.5 }}>
        Would you launch? Cases for{" "}
        {room.data.aircraft
          ? `your ${room.data.aircraft}`
          : "a usual light aircraft, until Gear has yours,"}{" "}
        and your minimums; drills for the field; your eye; flights to bring home; the alerts. A few
        minutes each.
      </Typography>
      {waiting > 0 && (
        <Typography role="status" sx={{ mb: 1 }}>
          {waiting === 1 ? "One answer waits" : `${waiting} answers wait`} on this device for the
          server.
        </Typography>
      )}
      <Today room={room.data} />
      <FieldDrills />
      <EyePanel />
      <HomePanel />
      <Panel title="Alerts" hint="about a minute">
        <Typography>
          The flight clock with a simulated aircraft, ten times as fast: how soon do you answer?
        </Typography>
        <Button
          component={Link}
          to={`/practice/calls/${(daysSince(now) % 5000) * 20 + 1}`}
          variant="outlined"
          sx={{ minHeight: 48, mt: 1 }}
        >
          Rehearse the alerts
        </Button>
      </Panel>
      <WithoutServer families={room.data.families} />
      <Families room={room.data} />
      <OverTime room={room.data} />
    </Box>
  );
}

/** Another flight each day. */
const daysSince = (now: Date) => Math.floor(now.getTime() / 86_400_000);

const address = (family: FamilyNow) => `/practice/${family.key}/${family.seed}`;

function Today({ room }: { room: RoomNow }) {
  const byKey = new Map(room.families.map((family) => [family.key, family]));
  return (
    <Panel title="Today" hint={room.today.length > 0 ? `${room.today.length} to do` : undefined}>
      {room.today.length === 0 && (
        <Typography>
          {room.away && room.families.every((family) => family.none)
            ? "No cases are on this device. Make them ahead while the server is in reach."
            : "Nothing is due. Come back tomorrow, or take any family below for another case."}
        </Typography>
      )}
      <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
        <DrillsToday />
        <HomeToday />
        {room.today.map(({ family: key, why }) => {
          const family = byKey.get(key)!;
          return (
            <Box
              component="li"
              key={key}
              sx={{ display: "flex", alignItems: "center", gap: 1, minHeight: 56 }}
            >
              <Box sx={{ flex: 1, minWidth: 0 }}>
                <Typography sx={{ fontWeight: 700 }}>{family.name}</Typography>
                <Typography variant="body2" color="text.secondary">
                  {WHY[why]}
                </Typography>
              </Box>
              <Button
                component={Link}
                to={address(family)}
                variant="contained"
                sx={{ minHeight: 48 }}
                aria-label={`Practise: ${family.name}`}
              >
                Practise
              </Button>
            </Box>
          );
        })}
      </Box>
    </Panel>
  );
}

function Item({
  name,
  why,
  to,
  button,
  label,
}: {
  name: string;
  why: string;
  to: string;
  button: string;
  label: string;
}) {
  return (
    <Box component="li" sx={{ display: "flex", alignItems: "center", gap: 1, minHeight: 56 }}>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Typography sx={{ fontWeight: 700 }}>{name}</Typography>
        <Typography variant="body2" color="text.secondary">
          {why}
        </Typography>
      </Box>
      <Button component={Link} to={to} variant="outlined" sx={{ minHeight: 48 }} aria-label={label}>
        {button}
      </Button>
    </Box>
  );
}

/** Drills that are due or next in the course, where there is a session to fly them in. */
function DrillsToday() {
  const drills = useDrillsNow();
  const session = useNextSession();
  if (!drills.data || drills.data.wanted.length === 0 || session === null) return null;
  return (
    <Item
      name={`In the field: ${nextWords(drills.data)}`}
      why={drills.data.first_flights ? courseWords(drills.data) : "due"}
      to={`/sessions/${session}/drills`}
      button="Open"
      label="Open the drills"
    />
  );
}

/** A flight to bring home, where one is due again or none was flown. */
function HomeToday() {
  const homing = useHoming();
  if (!homing.data) return null;
  const fresh = homing.data.kinds.every(({ ends }) => ends.length === 0);
  if (!homing.data.due && !fresh) return null;
  return (
    <Item
      name="Bring it home"
      why={WHY[homing.data.due ? "due" : "new"]}
      to={`/practice/home/${homing.data.seed}`}
      button="Fly"
      label="Fly one: bring it home"
    />
  );
}

function Families({ room }: { room: Room }) {
  const now = useNow();
  const weakest = room.families.find(({ key }) => key === room.weakest);
  return (
    <Panel
      title="How it goes"
      hint={weakest ? `weakest: ${weakest.name.toLowerCase()}` : undefined}
    >
      <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {room.families.map((family) => (
          <Box
            component="li"
            key={family.key}
            sx={{
              display: "flex",
              alignItems: "center",
              gap: 1.5,
              minHeight: 56,
              borderTop: 1,
              borderColor: "divider",
            }}
          >
            <Box sx={{ flex: 1, minWidth: 0 }}>
              {family.none ? (
                <Typography sx={{ fontWeight: 700 }}>{family.name}</Typography>
              ) : (
                <Typography
                  component={Link}
                  to={address(family)}
                  sx={{ fontWeight: 700, color: "text.primary" }}
                >
                  {family.name}
                </Typography>
              )}
              <Typography variant="body2" color="text.secondary">
                {family.going ? GOING[family.going] : "not begun"}
                {family.answers > 0 &&
                  `, ${family.answers === 1 ? "1 case" : `${family.answers} cases`}`}
                {family.due && `, due ${dueIn(family.due, now)}`}
                {family.calibration && `; ${CALIBRATION[family.calibration]}`}
                {family.none && "; no case for you now"}
              </Typography>
            </Box>
            <Costs family={family} />
          </Box>
        ))}
      </Box>
      <Button component="a" href="/api/practice/answers.csv" download size="small" sx={{ mt: 1 }}>
        All answers as CSV
      </Button>
    </Panel>
  );
}

/** What the latest answers cost, the latest at the right: shorter is better. */
function Costs({ family }: { family: FamilyNow }) {
  const latest = family.points.slice(-12);
  if (latest.length === 0) return null;
  const most = 12;
  const words = latest.map(({ cost }) => cost.toFixed(1)).join(", ");
  return (
    <svg
      width={latest.length * 9}
      height="34"
      role="img"
      aria-label={`What the latest answers cost, 0 is best: ${words}`}
      style={{ flexShrink: 0 }}
    >
      {latest.map(({ at, cost, grade }, n) => {
        const height = 3 + (30 * Math.min(cost, most)) / most;
        return (
          <rect key={at} x={n * 9} y={34 - height} width="6" height={height} fill={TONES[grade]} />
        );
      })}
    </svg>
  );
}
