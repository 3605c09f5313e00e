import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect } from "react";
import { Link, useParams } from "react-router";
import type { DrillCard, DrillsHere, Problem } from "../api/client";
import { useDrills } from "../outbox/lists";
import { WaitingWords } from "../outbox/WaitingWords";
import { VERDICT_OF, VerdictMark } from "../shell/marks";
import { ProblemNote, Waiting } from "../shell/notes";
import { Panel } from "../shell/Panel";
import { useUnits } from "../shell/preferences";
import { useNow } from "../shell/useNow";
import { useRoom } from "../stages/SessionRoom";
import { OpenDrill } from "./OpenDrill";
import { courseWords, decidingWords, standingWords, type Standing } from "./words";

/** A session's drills: what may start here and now, and one of them opened. */
export function DrillsPage() {
  const { id, editor } = useRoom();
  const { drill } = useParams();
  const drills = useDrills(id, editor.plan, useUnits());
  const card = drills.data?.cards.find((c) => c.key === drill);
  const standing = drills.data?.now.drills.find((d) => d.key === drill);
  useEffect(() => {
    document.title = `${standing?.name ?? "Drills"} · ${editor.plan.title} · Lark`;
  }, [standing?.name, editor.plan.title]);
  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 980 }}>
      <Button
        component={Link}
        to={`/sessions/${id}/${drill ? "drills" : "preflight"}`}
        sx={{ ml: -1 }}
      >
        {drill ? "All drills" : "Back to the preflight"}
      </Button>
      {drills.error && (
        <ProblemNote problem={drills.error as Problem} again={() => void drills.refetch()} />
      )}
      <WaitingWords session={id} lists={["drills"]} />
      {drills.isPending && <Waiting what="the drills" />}
      {drills.data && !drill && <List id={id} here={drills.data} title={editor.plan.title} />}
      {drills.data && drill && !card && (
        <Typography>There is no drill {drill}. Choose one of all drills.</Typography>
      )}
      {card && standing && (
        <OpenDrill key={card.key} session={id} card={card} standing={standing} />
      )}
    </Box>
  );
}

function List({ id, here, title }: { id: number; here: DrillsHere; title: string }) {
  const { wanted } = here.now;
  const rows = here.cards.map((card) => ({
    card,
    standing: here.now.drills.find((d) => d.key === card.key)!,
  }));
  const next = wanted.map((key) => rows.find(({ card }) => card.key === key)!);
  const others = rows.filter(({ card }) => !wanted.includes(card.key));
  return (
    <>
      <Typography variant="h1">Drills</Typography>
      <Typography color="text.secondary" sx={{ mb: 1.5 }}>
        {title}. Each one is checked against this session as it stands: room, people, wind and
        everything else a flight is checked for. What they ask for is common practice; the
        aircraft’s manual comes first.
      </Typography>
      {next.length > 0 && (
        <Panel title="Next" hint={here.now.first_flights ? courseWords(here.now) : "due"}>
          <Rows id={id} rows={next} />
        </Panel>
      )}
      <Panel title={next.length > 0 ? "The others" : "All drills"}>
        <Rows id={id} rows={others} />
      </Panel>
    </>
  );
}

function Rows({ id, rows }: { id: number; rows: { card: DrillCard; standing: Standing }[] }) {
  const now = useNow();
  return (
    <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
      {rows.map(({ card, standing }) => (
        <Box
          component="li"
          key={card.key}
          aria-label={standing.name}
          sx={{
            display: "flex",
            alignItems: "center",
            gap: 1.5,
            py: 1,
            borderTop: 1,
            borderColor: "divider",
          }}
        >
          <VerdictMark verdict={VERDICT_OF[card.status]} size={32} />
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <Typography sx={{ fontWeight: 700 }}>{standing.name}</Typography>
            <Typography variant="body2">{decidingWords(card)}</Typography>
            <Typography variant="body2" color="text.secondary">
              {card.answer
                ? `here: ${card.answer.word === "done" ? "done well" : "not yet"}; `
                : ""}
              {standingWords(standing, now)}
            </Typography>
          </Box>
          <Button
            component={Link}
            to={`/sessions/${id}/drills/${card.key}`}
            variant={card.may_start ? "contained" : "outlined"}
            aria-label={`Open: ${standing.name}`}
            sx={{ minHeight: 48 }}
          >
            Open
          </Button>
        </Box>
      ))}
    </Box>
  );
}
