import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import type { Problem } from "../api/client";
import { useEye, type EyeRoom } from "../api/eye";
import { Toggle } from "../inputs/fields";
import { QuantityInput } from "../inputs/QuantityInput";
import { Panel } from "../shell/Panel";
import { ProblemNote, Waiting } from "../shell/notes";
import { useUnits } from "../shell/preferences";
import { written } from "../units/units";
import { EyeLooks } from "./EyeLooks";
import { EyeRun, SKY } from "./EyeRun";
import { EyeScale } from "./EyeScale";
import {
  dropLook,
  endLook,
  keepLook,
  lookUnderWay,
  newLook,
  scaleHere,
  type Background,
  type Look,
} from "./kept";
import { useSendingLooks } from "./useSendingLooks";
import { farthestM, viewingFor, type Said } from "./staircase";

/** Which way does it point? As far as the pilot can tell, that is how far it may fly. */
export function EyePage() {
  const room = useEye();
  const { waiting, refused, send } = useSendingLooks();
  useEffect(() => {
    document.title = "The eye · Practice · Lark";
  }, []);
  if (room.error && !room.data)
    return <ProblemNote problem={room.error as Problem} again={() => void room.refetch()} />;
  if (!room.data) return <Waiting what="the eye" />;
  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 760 }}>
      <Button component={Link} to="/practice" sx={{ ml: -1 }}>
        Practice
      </Button>
      <Typography variant="h1" sx={{ mb: 1 }}>
        The eye: which way does it point?
      </Typography>
      <Eye
        room={room.data}
        ended={(look) => {
          endLook(look);
          send();
        }}
      />
      {waiting > 0 && (
        <Typography role="status" sx={{ mb: 1 }}>
          {waiting === 1 ? "A look waits" : `${waiting} looks wait`} on this device for the server,
          which works out what it tells.
        </Typography>
      )}
      {refused && (
        <Typography role="alert" color="error" sx={{ mb: 1 }}>
          A look was not taken: {refused}
        </Typography>
      )}
      <EyeLooks room={room.data} />
    </Box>
  );
}

function Eye({ room, ended }: { room: EyeRoom; ended: (look: Look) => void }) {
  const [scale, setScale] = useState(scaleHere);
  const [setting, setSetting] = useState(false);
  const [look, setLook] = useState<Look | null>(lookUnderWay);
  const [going, setGoing] = useState(false);
  if (!scale || setting)
    return (
      <EyeScale
        begin={scale?.px_per_mm ?? null}
        done={() => {
          setScale(scaleHere());
          setSetting(false);
        }}
      />
    );
  const px_per_mm = scale.px_per_mm;
  const most_m = look ? farthestM(look.size_m, look.viewing_mm, px_per_mm * scale.zoom) : 0;
  const answered = (said: Said) => {
    if (!look) return;
    const next = { ...look, said: [...look.said, said] };
    if (next.said.length >= room.trials) {
      ended(next);
      setLook(null);
      setGoing(false);
    } else {
      keepLook(next);
      setLook(next);
    }
  };
  if (look && going)
    return (
      <EyeRun
        look={look}
        px_per_mm={px_per_mm}
        most_m={most_m}
        trials={room.trials}
        answered={answered}
        stop={() => setGoing(false)}
      />
    );
  if (look)
    return (
      <Panel title="A look is under way" hint={`${look.said.length} of ${room.trials} answered`}>
        <Typography>
          {look.aircraft}, {SKY[look.background].name.toLowerCase()}, seen from{" "}
          {Math.round(look.viewing_mm / 10)} cm.
        </Typography>
        <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
          <Button variant="contained" sx={{ minHeight: 56 }} onClick={() => setGoing(true)}>
            Go on
          </Button>
          <Button
            variant="outlined"
            sx={{ minHeight: 56 }}
            onClick={() => {
              dropLook();
              setLook(null);
            }}
          >
            Discard it
          </Button>
        </Box>
      </Panel>
    );
  return (
    <EyeSetUp
      room={room}
      px_per_mm={px_per_mm * scale.zoom}
      again={() => setSetting(true)}
      begin={(made) => {
        keepLook(made);
        setLook(made);
        setGoing(true);
      }}
    />
  );
}

const ARM_CM = 50;

function EyeSetUp({
  room,
  px_per_mm,
  again,
  begin,
}: {
  room: EyeRoom;
  /** Of the screen's own pixels. */
  px_per_mm: number;
  again: () => void;
  begin: (look: Look) => void;
}) {
  const units = useUnits();
  const [name, setName] = useState(room.aircraft[0]!.name);
  const [background, setBackground] = useState<Background>("dull");
  const [cm, setCm] = useState(ARM_CM);
  const [timed, setTimed] = useState(true);
  const aircraft = room.aircraft.find((a) => a.name === name) ?? room.aircraft[0]!;
  // A little further than the formula goes, so that a keen eye is not stopped by the screen.
  const wanted = 1.3 * aircraft.formula_m;
  const far = farthestM(aircraft.size_m, cm * 10, px_per_mm);
  const from = Math.ceil(viewingFor(aircraft.size_m, wanted, px_per_mm) / 50) * 5;
  return (
    <Panel title="A look" hint={`${room.trials} answers, under five minutes`}>
      <Typography sx={{ mb: 1 }}>
        It is shown as small as it looks at a distance, for two seconds. Say which way its nose
        points; guess when you can’t tell. The distance follows your answers, and settles where
        three in four are right.
      </Typography>
      {room.aircraft.length > 1 && (
        <TextField
          select
          fullWidth
          label="Aircraft"
          value={aircraft.name}
          onChange={(e) => setName(e.target.value)}
          sx={{ mb: 1 }}
        >
          {room.aircraft.map((a) => (
            <MenuItem key={a.name} value={a.name}>
              {a.name}
            </MenuItem>
          ))}
        </TextField>
      )}
      <TextField
        select
        fullWidth
        label="Seen against"
        value={background}
        onChange={(e) => setBackground(e.target.value as Background)}
        sx={{ mb: 1 }}
      >
        {(Object.keys(SKY) as Background[]).map((key) => (
          <MenuItem key={key} value={key}>
            {SKY[key].name}
          </MenuItem>
        ))}
      </TextField>
      <QuantityInput
        label="From your eyes to the screen, in cm"
        quantity="count"
        min={20}
        max={500}
        value={cm}
        onChange={setCm}
      />
      <Typography sx={{ mb: 1 }}>
        From there this screen can draw it as far away as {written(far, "length", units)}
        {far < wanted &&
          `: not far enough, as the formula alone gives ${written(aircraft.formula_m, "length", units)}. ` +
            `Look from ${from} cm or more, and answer by the arrow keys`}
        .
      </Typography>
      <Toggle
        label="Leave it there until I answer (then nothing is offered for Minimums)"
        value={!timed}
        onChange={(leave) => setTimed(!leave)}
      />
      <Box sx={{ display: "flex", gap: 1, mt: 1, flexWrap: "wrap" }}>
        <Button
          variant="contained"
          sx={{ minHeight: 56 }}
          disabled={far < wanted}
          onClick={() =>
            begin(
              newLook({
                aircraft: aircraft.name,
                size_m: aircraft.size_m,
                background,
                timed,
                viewing_mm: cm * 10,
              }),
            )
          }
        >
          Begin
        </Button>
        <Button sx={{ minHeight: 56 }} onClick={again}>
          Set the screen’s scale again
        </Button>
      </Box>
    </Panel>
  );
}
