import { scaleLinear } from "d3-scale";
import type { Windows, Slot } from "../api/client";
import { clock } from "../shell/time";
import { useUnits } from "../shell/preferences";
import { written } from "../units/units";
import { hourTicks, placeOf, placeOfWindow, runs, shadeOf } from "./timeHeight";
import { Figure, Label, LINE, type Margin } from "./kit";

const MARGIN: Margin = { top: 50, right: 8, bottom: 65, left: 50 };
const CLOTH = 150;
const HEIGHT = MARGIN.top + CLOTH + MARGIN.bottom;

/** How dark each step of the shade is drawn; what is over the limit is hatched as well. */
const DEPTH = [0.07, 0.24, 0.46, 0.68, 0.9];
const GLOWS: Record<Slot["glow"], { fill: string; opacity: number; word: string }> = {
  night: { fill: "var(--ink)", opacity: 0.75, word: "night" },
  twilight: { fill: "var(--ink)", opacity: 0.4, word: "twilight" },
  golden: { fill: "var(--care)", opacity: 0.85, word: "golden hour" },
  day: { fill: "var(--line)", opacity: 0.5, word: "day" },
};

/** When? Wind by time and height as the share used, light and rain along the foot, windows along the top. */
export function TimeHeight({
  look,
  best,
  cursor,
  onCursor,
}: {
  look: Windows;
  /** Windows on the best bearing instead of the planned one. */
  best: boolean;
  cursor: number;
  onCursor: (slot: number) => void;
}) {
  const units = useUnits();
  const { slots, curtain } = look;
  const windows = best ? look.best : look.planned;
  const top = curtain.height_m.length - 1;
  const summary =
    windows.length === 0
      ? "No launch window in these two days."
      : `${windows.length} launch windows: ` +
        windows.map((w) => `${clock(w.begin)} to ${clock(w.end)}`).join(", ") +
        ".";

  return (
    <Figure
      height={HEIGHT}
      label={`Wind by time and height over two days. ${summary}`}
      draw={(width) => {
        const x = scaleLinear([0, slots.length], [MARGIN.left, width - MARGIN.right]);
        const y = scaleLinear([0, top], [MARGIN.top + CLOTH, MARGIN.top]);
        const one = x(1) - x(0);
        const every = one * 2 * 3 > 24 ? 3 : 6;
        const at = (event: React.PointerEvent<SVGRectElement>) => {
          const box = event.currentTarget.getBoundingClientRect();
          const share = (event.clientX - box.left) / box.width;
          onCursor(Math.min(slots.length - 1, Math.max(0, Math.floor(share * slots.length))));
        };
        const line = (height: number) => y(placeOf(height, curtain.height_m));
        const foot = MARGIN.top + CLOTH;
        return (
          <>
            <defs>
              <pattern
                id="over-the-limit"
                width="6"
                height="6"
                patternUnits="userSpaceOnUse"
                patternTransform="rotate(45)"
              >
                <line x1="0" x2="0" y1="0" y2="6" stroke="var(--card)" strokeWidth="2" />
              </pattern>
            </defs>
            {curtain.height_m.slice(1).map((height, h) =>
              runs(slots.map((_, i) => shadeOf(curtain.used[i]?.[h + 1]))).map((run) => {
                if (run.what === null) return null;
                const box = {
                  x: x(run.from),
                  y: y(h + 1),
                  width: x(run.to) - x(run.from),
                  height: y(h) - y(h + 1),
                  shapeRendering: "crispEdges" as const,
                };
                return (
                  <g key={`${height}-${run.from}`}>
                    <rect {...box} fill="var(--wind)" fillOpacity={DEPTH[run.what]} />
                    {run.what === DEPTH.length - 1 && <rect {...box} fill="url(#over-the-limit)" />}
                  </g>
                );
              }),
            )}
            {[0, 2, 6, 10, top]
              .filter((h) => h <= top)
              .map((h) => (
                <Label key={h} x={MARGIN.left - 6} y={y(h) + 4} anchor="end">
                  {written(curtain.height_m[h]!, "length", units)}
                </Label>
              ))}
            {[
              { height: look.return_height_m, style: LINE.reserve, name: "return" },
              {
                height: look.working_height_m,
                style: { ...LINE.main, strokeWidth: 2 },
                name: "working",
              },
            ].map(({ height, style, name }) => (
              <line
                key={name}
                x1={x(0)}
                x2={x(slots.length)}
                y1={line(height)}
                y2={line(height)}
                {...style}
              />
            ))}
            <Label x={x(0) + 4} y={line(look.working_height_m) + 14} color="var(--ink)" bold>
              flying height
            </Label>
            <Label
              x={x(slots.length) - 4}
              y={line(look.return_height_m) - 5}
              color="var(--care)"
              anchor="end"
              bold
            >
              return height
            </Label>
            {windows.map((w) => {
              const [from, to] = placeOfWindow(w, slots);
              const middle = (x(from) + x(to)) / 2;
              return (
                <g key={w.begin}>
                  <rect
                    x={x(from)}
                    y={MARGIN.top - 16}
                    width={Math.max(x(to) - x(from), 2)}
                    height={16}
                    fill={w.clear ? "var(--launch)" : "var(--card)"}
                    stroke="var(--launch)"
                    strokeWidth="2"
                  />
                  {[from, to].map((edge) => (
                    <line
                      key={edge}
                      x1={x(edge)}
                      x2={x(edge)}
                      y1={MARGIN.top - 16}
                      y2={foot}
                      stroke="var(--launch)"
                      strokeWidth="1.5"
                    />
                  ))}
                  {x(to) - x(from) > 34 && (
                    <Label
                      x={Math.min(Math.max(middle, MARGIN.left + 38), width - 44)}
                      y={MARGIN.top - 22}
                      anchor="middle"
                      color="var(--launch)"
                      bold
                    >
                      {x(to) - x(from) > 82 ? `${clock(w.begin)}–${clock(w.end)}` : clock(w.begin)}
                    </Label>
                  )}
                </g>
              );
            })}
            {runs(slots.map((s) => s.glow)).map((run) => (
              <rect
                key={run.from}
                x={x(run.from)}
                y={foot + 4}
                width={x(run.to) - x(run.from)}
                height={12}
                fill={GLOWS[run.what].fill}
                fillOpacity={GLOWS[run.what].opacity}
              />
            ))}
            {runs(slots.map((s) => s.glare_towards.length > 0))
              .filter((run) => run.what)
              .map((run) => (
                <line
                  key={run.from}
                  x1={x(run.from)}
                  x2={x(run.to)}
                  y1={foot + 18}
                  y2={foot + 18}
                  stroke="var(--stay)"
                  strokeWidth="3"
                  strokeDasharray="3 2"
                />
              ))}
            {slots.map((s, i) => {
              const falls = curtain.falls[i];
              if (falls == null || falls === "none") return null;
              return falls === "fog" ? (
                <rect
                  key={s.at}
                  x={x(i)}
                  y={foot + 21}
                  width={one}
                  height={8}
                  fill="var(--muted)"
                  fillOpacity="0.6"
                />
              ) : (
                <line
                  key={s.at}
                  x1={x(i) + one / 2 + 1.5}
                  x2={x(i) + one / 2 - 1.5}
                  y1={foot + 21}
                  y2={foot + 29}
                  stroke="var(--wind)"
                  strokeWidth={falls === "heavy" ? 3 : 1.5}
                />
              );
            })}
            <line
              x1={x(0)}
              x2={x(slots.length)}
              y1={foot + 31}
              y2={foot + 31}
              stroke="var(--ink)"
            />
            {hourTicks(slots, every).map((t) => (
              <g key={t.at}>
                <line x1={x(t.at)} x2={x(t.at)} y1={foot + 31} y2={foot + 36} stroke="var(--ink)" />
                <Label x={x(t.at)} y={foot + 49} anchor="middle">
                  {t.name}
                </Label>
              </g>
            ))}
            {slots.map((s, i) =>
              clock(s.at) === "00:00" ? (
                <line
                  key={s.at}
                  x1={x(i)}
                  x2={x(i)}
                  y1={MARGIN.top}
                  y2={foot + 31}
                  stroke="var(--muted)"
                  strokeDasharray="1 4"
                />
              ) : null,
            )}
            <line
              x1={x(cursor + 0.5)}
              x2={x(cursor + 0.5)}
              y1={MARGIN.top - 18}
              y2={foot + 31}
              stroke="var(--ink)"
              strokeWidth="2.5"
            />
            <circle cx={x(cursor + 0.5)} cy={MARGIN.top - 8} r="5" fill="var(--ink)" />
            <rect
              x={x(0)}
              y={0}
              width={x(slots.length) - x(0)}
              height={foot + 33}
              fill="transparent"
              style={{ cursor: "crosshair", touchAction: "pan-y" }}
              onPointerDown={at}
              onPointerMove={(e) => e.buttons > 0 && at(e)}
            />
          </>
        );
      }}
    />
  );
}

/** What shades and strips mean. */
export function TimeHeightKey() {
  return (
    <div
      aria-hidden="true"
      style={{ display: "flex", flexWrap: "wrap", columnGap: 14, fontSize: 13 }}
    >
      {["wind to 25% of its limit", "to 50%", "to 80%", "to 100%", "over its limit"].map(
        (word, i) => (
          <span key={word} style={{ display: "inline-flex", alignItems: "center", gap: 5 }}>
            <svg width="18" height="12">
              <rect width="18" height="12" fill="var(--wind)" fillOpacity={DEPTH[i]} />
              {i === DEPTH.length - 1 && (
                <rect width="18" height="12" fill="url(#over-the-limit)" />
              )}
            </svg>
            {word}
          </span>
        ),
      )}
      <span style={{ display: "inline-flex", alignItems: "center", gap: 5 }}>
        <svg width="18" height="8">
          <line
            x1="0"
            x2="18"
            y1="4"
            y2="4"
            stroke="var(--stay)"
            strokeWidth="3"
            strokeDasharray="3 2"
          />
        </svg>
        glare on a subject
      </span>
      {Object.values(GLOWS).map(({ fill, opacity, word }) => (
        <span key={word} style={{ display: "inline-flex", alignItems: "center", gap: 5 }}>
          <svg width="18" height="8">
            <rect width="18" height="8" fill={fill} fillOpacity={opacity} />
          </svg>
          {word}
        </span>
      ))}
    </div>
  );
}
