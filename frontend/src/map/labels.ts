/** Where names stand on the plan view, so that none lies over another. */

export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** A name to be placed: its mark's middle, how far around it the mark reaches, its own size [px], whether it matters. */
export interface Label {
  x: number;
  y: number;
  reach: number;
  width: number;
  height: number;
  strong: boolean;
}

const GAP_PX = 2;

function over(a: Box, b: Box): boolean {
  return a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;
}

/** The places beside a mark, the usual one first: right, left, below, above. */
function places({ x, y, reach, width, height }: Label): Box[] {
  const box = (left: number, top: number) => ({
    left,
    top,
    right: left + width,
    bottom: top + height,
  });
  const beside = y - height / 2;
  return [
    box(x + reach + GAP_PX, beside),
    box(x - reach - GAP_PX - width, beside),
    box(x - width / 2, y + reach + GAP_PX),
    box(x - width / 2, y - reach - GAP_PX - height),
  ];
}

/** A place for each name, null for one that gives way: those that matter choose first, then in the order given. */
export function placed(labels: Label[], view: { width: number; height: number }): (Box | null)[] {
  const found: (Box | null)[] = labels.map(() => null);
  const taken: Box[] = [];
  const order = [...labels.keys()].sort(
    (a, b) => Number(labels[b]!.strong) - Number(labels[a]!.strong) || a - b,
  );
  const inside = (box: Box) =>
    box.left >= 0 && box.top >= 0 && box.right <= view.width && box.bottom <= view.height;
  for (const at of order) {
    const free = places(labels[at]!).filter((box) => !taken.some((other) => over(box, other)));
    const best = free.find(inside) ?? free[0] ?? null;
    found[at] = best;
    if (best) taken.push(best);
  }
  return found;
}
