/** Words for the kit document's own values. */

export const STATES = {
  full: "Full",
  partly: "Partly charged",
  storage: "At storage charge",
  swollen: "Swollen",
  wet: "Got wet",
  retired: "Retired",
} as const;

export const CHEMISTRIES = {
  lipo: "LiPo, 3.7 V a cell",
  lipo_hv: "LiPo high voltage, 3.85 V a cell",
  li_ion: "Li-ion, 3.6 V a cell",
} as const;

export const CHARGER_MODES = {
  in_turn: "One after another",
  together: "All at the same time",
} as const;

export const TAKES = {
  packs: "Flight batteries",
  devices: "Controller, display",
  both: "Both",
} as const;

export const GROUPS = {
  at_home: "At home, before",
  aircraft: "Aircraft",
  power: "Power and control",
  camera: "Camera",
  site: "On site",
  self: "For yourself",
} as const;

export const WHEN = {
  always: "every session",
  cold: "cold sessions",
  water: "sessions over water",
  boat: "sessions from a boat",
  indoors: "sessions indoors",
  first_flights: "first flights",
  far: "far from home",
  risky: "risky shots",
  dark: "sessions in the dark",
} as const;

export const WORK = {
  compass: "Compass calibrated",
  sensors: "Sensors calibrated",
  gimbal: "Gimbal calibrated",
  firmware: "New firmware",
  firmware_seen: "Firmware checked",
  knock: "Impact or hard landing",
  part: "Part changed",
  propellers: "Propellers looked at or changed",
  screws: "Screws checked",
  flown: "Hours flown",
} as const;

/** What is due, as an order. */
export const DUE = {
  ...WORK,
  compass: "Calibrate the compass",
  sensors: "Calibrate the sensors",
  gimbal: "Calibrate the gimbal",
  firmware_seen: "Check for firmware updates",
  propellers: "Look at the propellers",
  screws: "Check the screws",
} as const;

export const CARE = {
  charge: "charge",
  top_up: "top up",
  ready: "ready",
  store: "to storage",
  raise: "charge to storage",
  leave: "leave it",
  put_aside: "put aside",
} as const;
