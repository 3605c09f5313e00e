import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { visuallyHidden } from "@mui/utils";
import { useEffect, useMemo, useState, type ReactNode } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import type { Problem } from "../api/client";
import { useHomeFlight, useHoming, useSendingFlown } from "../api/homeward";
import { ProblemNote, Waiting } from "../shell/notes";
import { useUnits } from "../shell/preferences";
import { Afterwards } from "./Afterwards";
import { Briefing } from "./Briefing";
import { didRead, didWritten } from "./did";
import { InTheAir } from "./InTheAir";
import { keepFlown, underWay } from "./kept";
import type { Acts } from "./flight";
import type { HomeFlight } from "./tables";

/** A flight in speeded-up time that has to be brought home. Its address holds what was done: it can be shared. */
export function HomePage() {
  const seed = Number(useParams().seed ?? "1");
  const home = useHomeFlight(seed, useUnits());
  useEffect(() => {
    document.title = "Bring it home · Practice · Lark";
  }, []);
  if (home.data) return <Open key={seed} home={home.data} />;
  return (
    <Page>
      {home.error && (
        <ProblemNote
          problem={home.error as Problem}
          again={() => void home.refetch()}
          back={{ to: "/practice", words: "Practice" }}
        />
      )}
      {home.isPending && <Waiting what="the flight" />}
    </Page>
  );
}

const ROOM = { p: { xs: 1.5, md: 2.5 }, maxWidth: 1100 };

function Page({ children }: { children: ReactNode }) {
  return (
    <Box sx={ROOM}>
      <Button component={Link} to="/practice" sx={{ ml: -1 }}>
        Practice
      </Button>
      <Typography variant="h1">Bring it home</Typography>
      {children}
    </Box>
  );
}

function Open({ home }: { home: HomeFlight }) {
  const [address, setAddress] = useSearchParams();
  const text = address.get("did");
  const did = useMemo(() => didRead(text), [text]);
  const [speed, setSpeed] = useState<number | null>(null);
  const [left, setLeft] = useState(() => underWay(home.seed));
  const start = (at: number, goesOn: boolean) => {
    if (!goesOn) setLeft(null);
    setSpeed(at);
  };
  const { go } = useSendingFlown();
  const next = useHoming();
  const end = (acts: Acts) => {
    keepFlown(home.seed, acts);
    go();
    setSpeed(null);
    setLeft(null);
    setAddress({ did: didWritten(acts) }, { replace: true });
  };
  if (did)
    return (
      <Page>
        <Afterwards
          key={text}
          home={home}
          acts={did}
          next={next.data?.seed}
          again={() => setAddress({}, { replace: true })}
        />
      </Page>
    );
  if (speed === null)
    return (
      <Page>
        <Briefing home={home} left={left} start={start} />
      </Page>
    );
  // In the air the room is for the flight: nothing else stands above it.
  return (
    <Box sx={{ ...ROOM, pt: { xs: 0.5, md: 2.5 } }}>
      <Typography variant="h1" sx={visuallyHidden}>
        Bring it home
      </Typography>
      <InTheAir home={home} speed={speed} left={left} end={end} />
    </Box>
  );
}
