/** The rooms beside the sessions' path. */
export const ROOMS = [
  { to: "/sessions", name: "Sessions", end: true },
  { to: "/gear", name: "Gear", end: false },
  { to: "/places", name: "Places", end: false },
  { to: "/forecasts", name: "Forecasts", end: false },
  { to: "/logbook", name: "Logbook", end: false },
  { to: "/minimums", name: "Minimums", end: false },
  { to: "/practice", name: "Practice", end: false },
  { to: "/phone", name: "Phone", end: false },
  { to: "/help", name: "Help", end: false },
];

export const linkStyle = {
  display: "flex",
  alignItems: "center",
  minHeight: { xs: 48, md: 40 },
  px: 1,
  mx: -1,
  borderRadius: 2,
  color: "text.primary",
  textDecoration: "none",
  fontWeight: 600,
  "&.active": { fontWeight: 800 },
  "&:hover": { bgcolor: "action.hover" },
} as const;
