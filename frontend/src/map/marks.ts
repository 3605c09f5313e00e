import L from "leaflet";
import type { Feature } from "../api/client";
import { ROLES } from "./roles";

/** Shapes of points on the plan view, each its own, drawn in a box of 24. */
const GLYPHS: Record<string, string> = {
  takeoff: '<circle cx="12" cy="12" r="8" fill="var(--card)" stroke-width="4"/>',
  subject:
    '<path d="M12 3l9 9-9 9-9-9z" fill="var(--card)" stroke-width="3"/><circle cx="12" cy="12" r="2.5"/>',
  landing:
    '<path d="M4 8v10h16V8" fill="none" stroke-width="3"/><path d="M12 3v9m-4-3l4 4 4-4" fill="none" stroke-width="3"/>',
  people: '<circle cx="12" cy="7" r="4"/><path d="M4 21c0-6 4-8 8-8s8 2 8 8z"/>',
  airfield:
    '<path d="M3 12h18M12 3v18" stroke-width="4"/><circle cx="12" cy="12" r="9" fill="none" stroke-width="2"/>',
  note: '<path d="M4 4h16v12h-8l-5 5v-5H4z" fill="var(--card)" stroke-width="2"/>',
  trees: '<path d="M12 2l8 15H4z"/><path d="M12 17v5" stroke-width="3"/>',
  mast: '<path d="M12 2v20M7 22l5-14 5 14" fill="none" stroke-width="2.5"/>',
  building: '<path d="M4 22V9l8-6 8 6v13z"/>',
  wires: '<path d="M6 2v20M3 6h6" fill="none" stroke-width="2.5"/>',
  terrain: '<path d="M2 20l7-12 4 6 3-4 6 10z"/>',
  far: '<path d="M12 3v18M3 12h18" stroke-width="2"/><circle cx="12" cy="12" r="6" fill="var(--card)" stroke-width="3"/>',
  none: "",
  handle: '<rect x="6" y="6" width="12" height="12" rx="2" fill="var(--card)" stroke-width="3"/>',
  move: '<circle cx="12" cy="12" r="9" fill="var(--card)" stroke-width="2"/><path d="M12 5v14M5 12h14" stroke-width="2"/>',
};

/** An icon with a glyph and a name beside it; what can be pressed is 44 px. */
export function icon(glyph: string, tone: string, name = "", strong = false): L.DivIcon {
  const made = L.divIcon({ className: "spot", iconSize: [44, 44], html: false });
  const plain = made.createIcon.bind(made);
  // Made for each marker that shows it, and its styles one by one: the page's policy takes none from a text.
  made.createIcon = (before) => {
    const spot = plain(before);
    const size = strong ? 32 : 24;
    const drawn = GLYPHS[glyph] ?? GLYPHS.note;
    spot.innerHTML = `<svg viewBox="-2 -2 28 28" width="${size}" height="${size}" fill="currentColor" stroke="currentColor" stroke-width="1">${drawn}</svg>`;
    const edge = `${22 - size / 2}px`;
    const { style } = spot.firstElementChild as SVGElement;
    Object.assign(style, { position: "absolute", left: edge, top: edge, color: tone });
    if (name) {
      const label = document.createElement("b");
      if (strong) label.dataset.strong = "1";
      label.textContent = name;
      Object.assign(label.style, { left: `${24 + size / 2}px`, top: "12px" });
      spot.append(label);
    }
    return spot;
  };
  return made;
}

export function glyphOf(feature: Feature): { glyph: string; tone: string } {
  const glyph = feature.role === "obstacle" ? (feature.kind ?? "building") : feature.role;
  return { glyph, tone: ROLES[feature.role].tone };
}
