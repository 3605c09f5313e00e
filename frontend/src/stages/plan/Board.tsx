import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Collapse from "@mui/material/Collapse";
import Typography from "@mui/material/Typography";
import { useId, useState } from "react";
import type { Check, Result } from "../../api/client";
import { STATUS_WORDS, tone, VERDICT_OF, VerdictMark } from "../../shell/marks";
import { useUnits } from "../../shell/preferences";
import { Fixes, type Trying } from "./Fixes";
import { againstLimit, barLength, PAST_WALL } from "./rails";

const COLUMNS = { xs: "minmax(0,1fr) auto", md: "178px minmax(0,1fr) 158px" };
/** Rails shown before more are asked for; whatever does not pass always shows. */
const SHOWN_AT_FIRST = 9;
const WALL = `${100 / (1 + PAST_WALL)}%`;

/** Every limit on one scale: the share of it that is used. The tightest on top, all ending at one wall. */
export function Board({ result, trying }: { result: Result; trying?: Trying }) {
  const [all, setAll] = useState(false);
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const toggle = (id: string) => {
    const next = new Set(opened);
    if (!next.delete(id)) next.add(id);
    setOpened(next);
  };
  const open = result.checks.filter((c) => c.status !== "pass").length;
  // A rail that was opened stays, wherever a change moves it.
  const shown = result.checks.filter(
    (c, i) => all || i < Math.max(open, SHOWN_AT_FIRST) || opened.has(c.id),
  );
  const more = result.checks.length - shown.length;
  return (
    <Box component="section" aria-label="Limits">
      <Box
        sx={{
          display: { xs: "none", md: "grid" },
          gridTemplateColumns: COLUMNS,
          columnGap: 1.5,
          color: "text.secondary",
          fontSize: ".85rem",
        }}
      >
        <span />
        <Box sx={{ position: "relative", height: 18 }}>
          <span>0</span>
          <Box
            component="span"
            sx={{ position: "absolute", left: `calc(${WALL} / 2)`, transform: "translateX(-50%)" }}
          >
            half the limit used
          </Box>
          <Box
            component="span"
            sx={{
              position: "absolute",
              left: WALL,
              transform: "translateX(-50%)",
              color: "text.primary",
              fontWeight: 700,
            }}
          >
            limit
          </Box>
        </Box>
      </Box>
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {shown.map((check) => (
          <Rail
            key={check.id}
            check={check}
            all={result.checks}
            trying={trying}
            open={opened.has(check.id)}
            toggle={() => toggle(check.id)}
          />
        ))}
      </Box>
      {(more > 0 || all) && (
        <Button size="small" onClick={() => setAll(!all)} sx={{ ml: { md: "178px" } }}>
          {all ? "Show fewer" : `Show ${more} more within limits`}
        </Button>
      )}
    </Box>
  );
}

function Rail({
  check,
  all,
  trying,
  open,
  toggle,
}: {
  check: Check;
  all: Check[];
  trying?: Trying;
  open: boolean;
  toggle: () => void;
}) {
  const units = useUnits();
  const id = useId();
  const passes = check.status === "pass";
  const words = againstLimit(check, units);
  const share =
    check.used === null
      ? "share of the limit not known"
      : `${Math.round(check.used * 100)}% of the limit used`;
  return (
    <Box component="li" sx={{ borderBottom: { xs: "1px solid var(--line)", md: "none" } }}>
      <Box
        component="button"
        type="button"
        aria-expanded={open}
        aria-controls={id}
        aria-label={`${check.label}, ${words}: ${STATUS_WORDS[check.status]}, ${share}`}
        onClick={toggle}
        sx={{
          display: "grid",
          gridTemplateColumns: COLUMNS,
          gridTemplateAreas: { xs: '"label value" "bar bar"', md: '"label bar value"' },
          columnGap: 1.5,
          rowGap: 0.25,
          alignItems: "center",
          width: "100%",
          minHeight: { xs: 48, md: 26 },
          p: { xs: "4px 0", md: 0 },
          border: 0,
          borderRadius: 1,
          bgcolor: open ? "action.hover" : "transparent",
          color: "inherit",
          font: "inherit",
          cursor: "pointer",
          "&:hover": { bgcolor: "action.hover" },
          // On a touch screen the rails need a finger's height.
          "@media (pointer: coarse)": { minHeight: 48 },
        }}
      >
        <Box
          sx={{
            gridArea: "label",
            display: "flex",
            alignItems: "center",
            justifyContent: { xs: "flex-start", md: "flex-end" },
            gap: 0.75,
            textAlign: { xs: "left", md: "right" },
            fontWeight: passes ? 400 : 750,
            lineHeight: 1.15,
          }}
        >
          {check.label}
          {!passes && <VerdictMark verdict={VERDICT_OF[check.status]} size={16} />}
        </Box>
        <Track check={check} />{" "}
        <Box
          sx={{
            gridArea: "value",
            textAlign: { xs: "right", md: "left" },
            whiteSpace: "nowrap",
            fontWeight: passes ? 400 : 700,
          }}
        >
          {words}
        </Box>
      </Box>
      <Collapse in={open} unmountOnExit>
        <Box id={id} sx={{ py: 1, pl: { xs: 0, md: "190px" }, pr: 1, pb: 2 }}>
          <Typography sx={{ fontWeight: 700 }}>{check.sentence}</Typography>
          {check.follows && (
            <Typography variant="body2">
              Caused by: {all.find((c) => c.id === check.follows)?.label ?? check.follows}.
            </Typography>
          )}
          {trying && <Fixes check={check} trying={trying} />}
          <Typography component="h3" variant="body2" sx={{ mt: 1, color: "text.secondary" }}>
            Working
          </Typography>
          <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
            {check.working.length === 0 && <li>Not enough data to calculate this.</li>}
            {check.working.map((step) => (
              <li key={step}>{step}</li>
            ))}
          </Box>
          <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
            Source: {check.source}
          </Typography>
        </Box>
      </Collapse>
    </Box>
  );
}

function Track({ check }: { check: Check }) {
  const scale = 100 / (1 + PAST_WALL);
  const through = check.used !== null && check.used > 1;
  const length = check.used === null ? 0 : barLength(check.used) * scale;
  return (
    <Box
      aria-hidden
      sx={{ gridArea: "bar", position: "relative", height: { xs: 18, md: 26 }, width: "100%" }}
    >
      <Box
        sx={{
          position: "absolute",
          top: "50%",
          left: 0,
          width: WALL,
          borderTop: check.used === null ? "3px dashed var(--unknown)" : "1px solid var(--line)",
        }}
      />
      {/* The wall and the ground behind it, one piece from rail to rail. */}
      <Box
        sx={{
          position: "absolute",
          inset: `0 0 0 ${WALL}`,
          borderLeft: "4px solid var(--ink)",
          background:
            "repeating-linear-gradient(135deg, var(--line) 0 1px, transparent 1px 6px) left / 14px 100% no-repeat",
        }}
      />
      {check.spread && (
        <Box
          sx={{
            position: "absolute",
            top: "50%",
            left: `${barLength(check.spread[0]!) * scale}%`,
            width: `${(barLength(check.spread[1]!) - barLength(check.spread[0]!)) * scale}%`,
            transform: "translateY(-50%)",
            height: { xs: 10, md: 13 },
            color: check.status === "pass" ? "var(--quiet)" : tone(VERDICT_OF[check.status]),
            background: "linear-gradient(90deg, currentColor, transparent)",
          }}
        />
      )}
      {check.used !== null && (
        <Box
          sx={{
            position: "absolute",
            top: "50%",
            left: 0,
            transform: "translateY(-50%)",
            height: { xs: 10, md: 13 },
            width: `${length}%`,
            minWidth: "3px",
            borderRadius: "2px",
            bgcolor: check.status === "pass" ? "var(--quiet)" : tone(VERDICT_OF[check.status]),
            borderRight: "3px solid var(--ink)",
            clipPath: through
              ? "polygon(0 0, calc(100% - 6px) 0, 100% 50%, calc(100% - 6px) 100%, 0 100%)"
              : undefined,
            transition: "width 80ms linear",
          }}
        />
      )}
    </Box>
  );
}
