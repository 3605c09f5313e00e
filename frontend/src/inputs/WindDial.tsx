import { bearing } from "../units/units";

/** Where the wind comes from and where the flight goes, seen from above, north up. */
export function WindDial({
  from,
  out,
  size = 84,
}: {
  from: number | null;
  out: number;
  size?: number;
}) {
  const at = (degrees: number, radius: number) => {
    const angle = (degrees * Math.PI) / 180;
    return [50 + radius * Math.sin(angle), 50 - radius * Math.cos(angle)] as const;
  };
  const [ox, oy] = at(out, 36);
  const label =
    from === null
      ? `Flight out towards ${bearing(out)}`
      : `Wind from ${bearing(from)}, flight out towards ${bearing(out)}`;
  return (
    <svg width={size} height={size} viewBox="0 0 100 100" role="img" aria-label={label}>
      <circle cx="50" cy="50" r="44" fill="none" stroke="var(--line)" strokeWidth="4" />
      <text x="50" y="16" textAnchor="middle" fontSize="12" fill="var(--muted)">
        N
      </text>
      <line
        x1="50"
        y1="50"
        x2={ox}
        y2={oy}
        stroke="var(--ink)"
        strokeWidth="2"
        strokeDasharray="4 3"
      />
      <circle cx={ox} cy={oy} r="4" fill="var(--ink)" />
      {from !== null && (
        <g transform={`rotate(${from} 50 50)`} stroke="var(--wind)" strokeWidth="5" fill="none">
          <line x1="50" y1="22" x2="50" y2="74" />
          <path d="M41 64L50 76L59 64" />
        </g>
      )}
      <circle cx="50" cy="50" r="4" fill="var(--card)" stroke="var(--ink)" strokeWidth="2" />
    </svg>
  );
}
