/** The path of a session, in the order of the work. */
export interface Stage {
  number: number;
  name: string;
  path: string;
}

export const STAGES: Stage[] = [
  { number: 1, name: "Plan", path: "plan" },
  { number: 2, name: "Prepare", path: "prepare" },
  { number: 3, name: "Site", path: "site" },
  { number: 4, name: "Preflight", path: "preflight" },
  { number: 5, name: "Flight", path: "flight" },
  { number: 6, name: "After", path: "after" },
];
