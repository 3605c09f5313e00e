import { setAt, type Path } from "./history";

/** One field that was changed here and elsewhere, to different values. `undefined`: it is not there. */
export interface Clash {
  path: Path;
  here: unknown;
  elsewhere: unknown;
}

type Fields = Record<string, unknown>;

const isFields = (value: unknown): value is Fields =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** The fields in which two documents differ. */
export function differing(one: unknown, other: unknown, path: Path = []): Path[] {
  if (same(one, other)) return [];
  if (!isFields(one) || !isFields(other)) return [path];
  const keys = new Set([...Object.keys(one), ...Object.keys(other)]);
  return [...keys].flatMap((key) => differing(one[key], other[key], [...path, key]));
}

/** Whether two documents say the same; what is absent and what is undefined are alike. */
export function same(one: unknown, other: unknown): boolean {
  if (one === other) return true;
  if (Array.isArray(one) && Array.isArray(other))
    return one.length === other.length && one.every((item, i) => same(item, other[i]));
  if (!isFields(one) || !isFields(other)) return false;
  return Object.keys({ ...one, ...other }).every((name) => same(one[name], other[name]));
}

/**
 * Two documents that came from one, put together field by field. What only one of them changed is taken from it;
 * where both changed a field to different values, it clashes and stays as it is here. A list counts as one field
 * unless it has as many rows in all three.
 */
export function merged<T>(base: T, here: T, elsewhere: T): { document: T; clashes: Clash[] } {
  const clashes: Clash[] = [];
  const rowsAlike = (lists: unknown[]) =>
    lists.every((list) => Array.isArray(list) && list.length === (lists[0] as unknown[]).length);

  function join(was: unknown, mine: unknown, theirs: unknown, path: Path): unknown {
    if (same(mine, theirs) || same(was, theirs)) return mine;
    if (same(was, mine)) return theirs;
    if (isFields(mine) && isFields(theirs)) {
      const before = isFields(was) ? was : {};
      const found: Fields = {};
      for (const name of Object.keys({ ...mine, ...theirs })) {
        const value = join(before[name], mine[name], theirs[name], [...path, name]);
        if (value !== undefined) found[name] = value;
      }
      return found;
    }
    if (rowsAlike([was, mine, theirs]))
      return (mine as unknown[]).map((row, i) =>
        join((was as unknown[])[i], row, (theirs as unknown[])[i], [...path, i]),
      );
    clashes.push({ path, here: mine, elsewhere: theirs });
    return mine;
  }

  return { document: join(base, here, elsewhere, []) as T, clashes };
}

/** A document with a clash answered by what stands elsewhere. */
export function takenFromElsewhere<T>(document: T, clash: Clash): T {
  return setAt(document, clash.path, clash.elsewhere);
}
