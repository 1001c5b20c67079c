import type { TypedCell } from '@core/time';
import type { GridCell } from './grid';
import type { RowHead } from './kept-cells';

/** What is said of a cell besides its time; what is left out stays. */
export type CellSaid = Partial<Pick<TypedCell, 'note' | 'insideNote' | 'distance' | 'billable' | 'reason'>>;

/** A cell as it is sent. @param typed what stands in its field; nothing empties it */
export function typedCell({
  row,
  cell,
  typed,
  said = {},
}: {
  readonly row: RowHead;
  readonly cell: Pick<GridCell, 'day' | 'stored'>;
  readonly typed: string;
  readonly said?: CellSaid;
}): TypedCell {
  const { workId, activityId } = row;
  return { workId, activityId, day: cell.day, typed, was: cell.stored?.minutes ?? 0, note: undefined, ...said } as TypedCell;
}
