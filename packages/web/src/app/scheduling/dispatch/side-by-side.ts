export interface Spanned {
  readonly from: number;
  readonly to: number;
}
/** A block with its place across: the share of the width it begins at and takes, in percent. */
export type Placed<T> = T & { readonly left: number; readonly width: number };

/** Puts what overlaps side by side: each as wide as the crowd that it is in allows, none over another. */
export function sideBySide<T extends Spanned>(blocks: readonly T[]): Placed<T>[] {
  const sorted = [...blocks].sort((a, b) => a.from - b.from || b.to - a.to);
  const placed: Placed<T>[] = [];
  let crowd: { block: T; column: number }[] = [];
  let crowdEnds = -Infinity;
  const settle = () => {
    const columns = Math.max(0, ...crowd.map((c) => c.column + 1));
    for (const { block, column } of crowd) placed.push({ ...block, left: (column / columns) * 100, width: 100 / columns });
    crowd = [];
  };
  for (const block of sorted) {
    if (block.from >= crowdEnds) settle();
    const taken = new Set(crowd.filter((c) => c.block.to > block.from).map((c) => c.column));
    let column = 0;
    while (taken.has(column)) column++;
    crowd.push({ block, column });
    crowdEnds = crowd.length === 1 ? block.to : Math.max(crowdEnds, block.to);
  }
  settle();
  return placed;
}
