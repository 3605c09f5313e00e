import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Link } from "react-router";
import type { Problem, Ready } from "../../api/client";
import { ProblemNote } from "../../shell/notes";
import { day } from "../../shell/time";
import { useTicks } from "../../outbox/lists";
import { useSaying } from "../../outbox/useSaying";
import { WaitingWords } from "../../outbox/WaitingWords";
import { GROUPS } from "../../gear/words";

type Item = Ready["items"][number];

/** The list of this session, ticked item by item; arrow keys move, space ticks. */
export function KitList({ sessionId, ready }: { sessionId: number; ready: Ready }) {
  const query = useTicks(sessionId);
  const say = useSaying(sessionId, "kit");
  const [before, setBefore] = useState<string[]>([]);
  const ticks = query.data;
  // Once it is there, a server that is out of reach takes no list away.
  if (!ticks)
    return query.error ? (
      <ProblemNote problem={query.error as Problem} again={() => void query.refetch()} />
    ) : (
      <Typography role="status">Loading what is ticked…</Typography>
    );
  const done = ready.items.filter((i) => i.key in ticks).length;
  const groups = (Object.keys(GROUPS) as Item["group"][])
    .map((group) => ({ group, items: ready.items.filter((i) => i.group === group) }))
    .filter(({ items }) => items.length > 0);

  const move = (event: React.KeyboardEvent<HTMLElement>) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!step) return;
    event.preventDefault();
    const boxes = [
      ...event.currentTarget.querySelectorAll<HTMLInputElement>("input[type=checkbox]"),
    ];
    boxes[boxes.indexOf(document.activeElement as HTMLInputElement) + step]?.focus();
  };

  return (
    <Box onKeyDown={move}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
        <Typography role="status" sx={{ fontWeight: 700, flex: 1 }}>
          {done} of {ready.items.length} done
        </Typography>
        {before.length > 0 && done === 0 ? (
          <Button
            className="no-print"
            size="small"
            onClick={() => {
              before.forEach((item) => say({ item, word: "done" }));
              setBefore([]);
            }}
          >
            Restore ticks
          </Button>
        ) : (
          <Button
            className="no-print"
            size="small"
            disabled={done === 0}
            onClick={() => {
              const items = Object.keys(ticks);
              items.forEach((item) => say({ item, word: null }));
              setBefore(items);
            }}
          >
            Clear all ticks
          </Button>
        )}
      </Box>
      <WaitingWords session={sessionId} lists={["kit"]} />
      {groups.map(({ group, items }) => (
        <Box key={group} component="section" aria-label={GROUPS[group]} sx={{ mb: 1 }}>
          <Typography variant="h3" sx={{ mt: 0.5 }}>
            {GROUPS[group]}
          </Typography>
          <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
            {items.map((item) => (
              <ListRow
                key={item.key}
                item={item}
                ticked={item.key in ticks}
                tick={(to) => say({ item: item.key, word: to ? "done" : null })}
              />
            ))}
          </Box>
        </Box>
      ))}
      <Typography variant="body2" color="text.secondary" className="no-print">
        Your own items are saved under <Link to="/gear">Gear</Link> and added to every matching
        session.
      </Typography>
    </Box>
  );
}

function ListRow({
  item,
  ticked,
  tick,
}: {
  item: Item;
  ticked: boolean;
  tick: (to: boolean) => void;
}) {
  return (
    <Box
      component="li"
      sx={{ borderTop: 1, borderColor: "divider", "@media print": { breakInside: "avoid" } }}
    >
      <Box
        component="label"
        sx={{ display: "flex", alignItems: "center", minHeight: 48, cursor: "pointer", gap: 0.5 }}
      >
        <Checkbox checked={ticked} onChange={(e) => tick(e.target.checked)} />
        <Box sx={{ minWidth: 0, py: 0.25 }}>
          <Typography component="span" sx={{ fontWeight: 650 }}>
            {item.count > 1 ? `${item.count} × ` : ""}
            {item.name}
          </Typography>
          {item.on && (
            <Typography
              component="span"
              sx={{ ml: 1, color: "var(--care)", fontWeight: 650, whiteSpace: "nowrap" }}
            >
              {day(`${item.on}T00:00Z`).slice(0, -5)}
            </Typography>
          )}
          <Typography variant="body2" color="text.secondary" sx={{ lineHeight: 1.3 }}>
            {item.why}
          </Typography>
        </Box>
      </Box>
    </Box>
  );
}
