/** Words for the plan document's own values. */

export const SURROUNDINGS = {
  water: "Water",
  smooth: "Smooth: beach, mown grass, snow",
  open: "Open: grass, few trees",
  roughly_open: "Roughly open: low crops, bog, scattered trees",
  rough: "Rough: high crops, hedges",
  very_rough: "Very rough: scrub, orchards, farms",
  closed: "Closed: wood, village, suburb",
  chaotic: "Chaotic: city, mixed high buildings",
} as const;

export const NOISE = {
  quiet: "Quiet: open country",
  suburban: "Some: houses around",
  urban: "High: town, masts",
} as const;

export const OBSTACLES = {
  trees: "Trees",
  building: "Building",
  wires: "Wires",
  mast: "Mast or tower",
  terrain: "Rising ground",
} as const;

export const SOURCES = {
  forecast: "Forecast",
  measured: "Measured",
  hover: "In the hover",
} as const;

export const PRECIPITATION = {
  none: "None",
  light: "Light",
  heavy: "Heavy",
  fog: "Fog",
} as const;

export const MODES = {
  rth: "Return to home",
  slow: "Manual, slow mode",
  normal: "Manual, normal mode",
  fast: "Manual, fast mode",
} as const;

export const PLATFORMS = {
  ground: "On land",
  boat: "From a boat",
  car: "From a car",
} as const;

export const LANDFORMS = {
  flat: "Level",
  ridge: "Ridge",
  escarpment: "Cliff or edge",
  hill: "Round hill",
} as const;

export const ATTACHMENTS = {
  guards: "Guards",
  floats: "Floats",
  light: "Light",
  filter: "Filter",
  other: "Something else",
} as const;

export const LOST_LINK = {
  return: "Return",
  hover: "Hover",
  land: "Land",
} as const;
