import DownIcon from "@mui/icons-material/ArrowDownward";
import UpIcon from "@mui/icons-material/ArrowUpward";
import AddIcon from "@mui/icons-material/Add";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Snackbar from "@mui/material/Snackbar";
import Typography from "@mui/material/Typography";
import { useEffect, useState, type ReactNode } from "react";
import { Link } from "react-router";
import type { News, OwnSource, Problem } from "../api/client";
import { useNews, useOwnSources, useSourceActions, useWatchActions } from "../api/forecasts";
import { useSources } from "../api/weather";
import { VerdictMark } from "../shell/marks";
import { ProblemNote, Waiting } from "../shell/notes";
import { Panel } from "../shell/Panel";
import { clock, day } from "../shell/time";
import { askPermission, permission, type Permission } from "../shell/notify";
import { ServiceDialog } from "./ServiceDialog";
import { foundWords } from "./words";

/** Where forecasts come from, in the order in which they are asked, and what their renewals have changed. */
export function ForecastsPage() {
  useEffect(() => {
    document.title = "Forecasts · Lark";
  }, []);
  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 900 }}>
      <Typography variant="h1" sx={{ mb: 1.5 }}>
        Forecasts
      </Typography>
      <Changes />
      <Services />
    </Box>
  );
}

function Changes() {
  const news = useNews();
  const { look } = useWatchActions();
  const failed = (look.data?.asked ?? []).filter((a) => a.why !== null);
  const silent = [...new Set(failed.map((a) => `${a.name}: ${a.why}`))];
  return (
    <Panel title="What has changed" hint="sessions of the next three days">
      {news.error && (
        <ProblemNote problem={news.error as Problem} again={() => void news.refetch()} />
      )}
      {news.data?.length === 0 && (
        <Typography color="text.secondary">
          No change that you haven’t seen. While Lark runs, it asks your forecasts every half hour
          and checks the sessions ahead again.
        </Typography>
      )}
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {(news.data ?? []).map((one) => (
          <Change key={one.change.session_id} news={one} />
        ))}
      </Box>
      {silent.length > 0 && (
        <Typography role="alert" variant="body2">
          {silent.join(". ")}.
        </Typography>
      )}
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1, alignItems: "center" }}>
        <Button variant="outlined" disabled={look.isPending} onClick={() => look.mutate()}>
          {look.isPending ? "Looking…" : "Look now"}
        </Button>
        <Notifications />
      </Box>
      {look.error && <ProblemNote problem={look.error as Problem} again={() => look.mutate()} />}
    </Panel>
  );
}

function Change({ news: { title, takeoff_at, change } }: { news: News }) {
  return (
    <Box component="li" sx={{ borderTop: 1, borderColor: "divider" }}>
      <Box
        component={Link}
        to={`/sessions/${change.session_id}/plan?view=when`}
        sx={{
          display: "flex",
          gap: 1,
          py: 1,
          minHeight: 48,
          alignItems: "center",
          color: "inherit",
          textDecoration: "none",
          "&:hover": { bgcolor: "action.hover" },
        }}
      >
        <Box sx={{ flexShrink: 0, lineHeight: 0 }}>
          <VerdictMark verdict={change.found.verdict} size={32} />
        </Box>
        <Box sx={{ minWidth: 0 }}>
          <Typography sx={{ fontWeight: 750 }}>
            {title}, {day(takeoff_at)}, {clock(takeoff_at)}
          </Typography>
          <Typography variant="body2">Now {foundWords(change.found)}.</Typography>
        </Box>
      </Box>
    </Box>
  );
}

function Notifications() {
  const [allowed, setAllowed] = useState<Permission>(permission);
  if (allowed === "default")
    return (
      <Button onClick={() => void askPermission().then(setAllowed)}>Tell me on this device</Button>
    );
  const words = {
    granted: "This device tells you of changes while Lark is open on it.",
    denied: "This browser doesn’t let Lark tell you. Allow notifications in its settings.",
    none: "This browser has no notifications. The calendar file of a session says what was found last.",
  }[allowed];
  return (
    <Typography variant="body2" color="text.secondary">
      {words}
    </Typography>
  );
}

function Services() {
  const own = useOwnSources();
  const connected = useSources();
  const { order, remove, save } = useSourceActions();
  const [open, setOpen] = useState<OwnSource | "new" | null>(null);
  const [removed, setRemoved] = useState<OwnSource | null>(null);
  if (own.isPending) return <Waiting what="your forecast services" />;
  if (own.error)
    return <ProblemNote problem={own.error as Problem} again={() => void own.refetch()} />;
  const mine = own.data;
  const given = (connected.data ?? []).filter((s) => !mine.some((m) => m.key === s.key));
  const move = (at: number, by: number) => {
    const numbers = mine.map((m) => m.id);
    const [moved] = numbers.splice(at, 1);
    numbers.splice(at + by, 0, moved!);
    order.mutate(numbers);
  };
  return (
    <Panel title="Services" hint="asked together, listed in this order">
      {mine.length + given.length === 0 && (
        <Typography color="text.secondary">
          None yet. Without one, paste a report or a table under When, or type what you know.
        </Typography>
      )}
      <Box component="ul" aria-label="Services" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {mine.map((m, at) => (
          <Line
            key={m.id}
            name={m.name}
            about={`${m.url}, ${m.collection}${m.has_key ? ", with a key" : m.wants_key ? ": enter its key again" : ""}`}
          >
            <IconButton
              aria-label={`Move ${m.name} up`}
              disabled={at === 0 || order.isPending}
              onClick={() => move(at, -1)}
            >
              <UpIcon />
            </IconButton>
            <IconButton
              aria-label={`Move ${m.name} down`}
              disabled={at === mine.length - 1 || order.isPending}
              onClick={() => move(at, 1)}
            >
              <DownIcon />
            </IconButton>
            <Button onClick={() => setOpen(m)} aria-label={`Change ${m.name}`}>
              Change
            </Button>
            <Button
              color="error"
              aria-label={`Remove ${m.name}`}
              onClick={() => remove.mutate(m, { onSuccess: () => setRemoved(m) })}
            >
              Remove
            </Button>
          </Line>
        ))}
        {given.map((s) => (
          <Line
            key={s.key}
            name={s.name}
            about={s.simulated ? "Made up, to practise with" : "As Lark was started"}
          >
            {s.control && (
              <Button component="a" href={s.control} target="_blank" rel="noreferrer">
                Choose the day
              </Button>
            )}
          </Line>
        ))}
      </Box>
      {(order.error ?? remove.error) && (
        <ProblemNote problem={(order.error ?? remove.error) as Problem} />
      )}
      <Button
        variant="outlined"
        startIcon={<AddIcon />}
        sx={{ mt: 1 }}
        onClick={() => setOpen("new")}
      >
        Add a forecast service
      </Button>
      {open && <ServiceDialog own={open === "new" ? null : open} onClose={() => setOpen(null)} />}
      <Snackbar
        open={removed !== null}
        autoHideDuration={10_000}
        onClose={() => setRemoved(null)}
        message={`Removed ${removed?.name ?? ""}. What it said stays.`}
        action={
          removed &&
          !removed.has_key && (
            <Button
              color="inherit"
              onClick={() => {
                const { name, url, collection, header, own_network } = removed;
                const draft = { name, url, collection, header, key: "", own_network };
                save.mutate({ draft, id: null });
                setRemoved(null);
              }}
            >
              Undo
            </Button>
          )
        }
      />
    </Panel>
  );
}

function Line({ name, about, children }: { name: string; about: string; children?: ReactNode }) {
  return (
    <Box
      component="li"
      sx={{
        display: "flex",
        flexWrap: "wrap",
        alignItems: "center",
        borderTop: 1,
        borderColor: "divider",
        py: 0.5,
        minHeight: 56,
      }}
    >
      <Box sx={{ flex: "1 1 240px", minWidth: 0 }}>
        <Typography sx={{ fontWeight: 700 }}>{name}</Typography>
        <Typography variant="body2" color="text.secondary" sx={{ overflowWrap: "anywhere" }}>
          {about}
        </Typography>
      </Box>
      {children}
    </Box>
  );
}
