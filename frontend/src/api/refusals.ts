/** One fault: the key's path, what was given and what is allowed. */
type Refusal = { key: string; given: string; allowed: string };

/** Faults of a whole file or pasted text, and not of one field. */
const OF_A_FILE = new Set([
  "file",
  "archive",
  "text",
  "terrain",
  "zones",
  "features",
  "(the document)",
]);
const UNITS = /_(ms|m|deg|pct|min|c|g|wh|w|s|h|km|db|ghz)$/;

/** A key of a document as a pilot would call it: "weather.winds[0].speed_ms" is "Winds 1, speed". */
export function keyWords(key: string): string {
  const [last, part] = key
    .split(".")
    .reverse()
    .map((step) => step.replace(/\[(\d+)\]/g, (_, row) => ` ${Number(row) + 1}`))
    .map((step) => step.replace(UNITS, "").replaceAll("_", " "));
  const text = part && /\d$/.test(part) ? `${part}, ${last}` : last!;
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** What is wrong with an input, and what it needs, in one sentence. */
export function refusalWords({ key, given, allowed }: Refusal): string {
  if (OF_A_FILE.has(key)) return `It has ${given}; it needs ${allowed}.`;
  return `${keyWords(key)}: ${given} given; needs ${allowed}.`;
}
