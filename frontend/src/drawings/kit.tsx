import Box from "@mui/material/Box";
import { useCallback, useState, type ReactNode } from "react";

/** What the drawings share: a frame that knows its width, axes, line styles. */

export interface Margin {
  top: number;
  right: number;
  bottom: number;
  left: number;
}

export const LINE = {
  main: { stroke: "var(--ink)", strokeWidth: 3, fill: "none", strokeLinejoin: "round" as const },
  other: { stroke: "var(--muted)", strokeWidth: 1.5, strokeDasharray: "2 3", fill: "none" },
  reserve: { stroke: "var(--care)", strokeWidth: 2, strokeDasharray: "8 4" },
  forced: { stroke: "var(--stay)", strokeWidth: 2, strokeDasharray: "2 3" },
};

/** A figure drawn at the width it has, so that its letters keep their size on every screen. */
export function Figure({
  height,
  label,
  handles = false,
  children,
  draw,
}: {
  height: number;
  label: string;
  /** Whether something in it can be taken hold of: then it is more than a picture. */
  handles?: boolean;
  children?: ReactNode;
  draw: (width: number) => ReactNode;
}) {
  const [width, setWidth] = useState(0);
  const measure = useCallback((node: HTMLElement | null) => {
    if (!node) return;
    const observer = new ResizeObserver((entries) => {
      const box = entries[0]?.contentRect;
      if (box) setWidth(Math.floor(box.width));
    });
    observer.observe(node);
    return () => observer.disconnect();
  }, []);
  return (
    <Box component="figure" ref={measure} sx={{ m: 0, minWidth: 0 }}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          viewBox={`0 0 ${width} ${height}`}
          role={handles ? "group" : "img"}
          aria-label={label}
          style={{ display: "block" }}
        >
          {draw(width)}
        </svg>
      )}
      {children}
    </Box>
  );
}

export function Label({
  x,
  y,
  children,
  anchor = "start",
  color = "var(--muted)",
  size = 13,
  bold = false,
}: {
  x: number;
  y: number;
  children: ReactNode;
  anchor?: "start" | "middle" | "end";
  color?: string;
  size?: number;
  bold?: boolean;
}) {
  return (
    <text
      x={x}
      y={y}
      textAnchor={anchor}
      fill={color}
      fontSize={size}
      fontWeight={bold ? 700 : 400}
      // A halo in the card's colour keeps a word legible where it crosses a line.
      stroke="var(--card)"
      strokeWidth="4"
      paintOrder="stroke"
    >
      {children}
    </text>
  );
}

export function LeftAxis({
  ticks,
  scale,
  x,
  name,
}: {
  ticks: number[];
  scale: (value: number) => number;
  x: number;
  name: (value: number) => string;
}) {
  return (
    <g>
      {ticks.map((t) => (
        <Label key={t} x={x - 8} y={scale(t) + 4} anchor="end">
          {name(t)}
        </Label>
      ))}
    </g>
  );
}

export function BottomAxis({
  ticks,
  y,
  from,
  to,
}: {
  ticks: { at: number; name: string }[];
  y: number;
  from: number;
  to: number;
}) {
  return (
    <g>
      <line x1={from} x2={to} y1={y} y2={y} stroke="var(--ink)" strokeWidth="1.5" />
      {ticks.map((t) => (
        <g key={`${t.at}`}>
          <line x1={t.at} x2={t.at} y1={y} y2={y + 5} stroke="var(--ink)" strokeWidth="1.5" />
          <Label x={t.at} y={y + 19} anchor="middle">
            {t.name}
          </Label>
        </g>
      ))}
    </g>
  );
}
