/** The path of a session, in the order of the work. A stage without a screen yet is named and cannot be opened. */
export interface Stage {
  number: number;
  name: string;
  path: string | null;
}

export const STAGES: Stage[] = [
  { number: 1, name: "Plan", path: "plan" },
  { number: 2, name: "Pack", path: null },
  { number: 3, name: "Site", path: null },
  { number: 4, name: "Walkround", path: null },
  { number: 5, name: "Airborne", path: null },
  { number: 6, name: "After", path: null },
];
