import type { CategoryWire } from '@core/desk';

export interface CategoryGroup {
  readonly name: string;
  readonly children: readonly CategoryWire[];
}

/** Categories of the second level under the names of the first, in their order; what is chosen is of the second. */
export function categoryGroups(categories: readonly CategoryWire[]): readonly CategoryGroup[] {
  return categories
    .filter((c) => c.parentId === null)
    .map((top) => ({ name: top.name, children: categories.filter((c) => c.parentId === top.id) }))
    .filter((group) => group.children.length > 0);
}
