import type { Columns } from '../../app/database';

export const degrees = (text: string | null) => (text === null ? null : Number(text));

/** Coordinates as they are kept, in numbers. */
export function coordinatesOf(row: Columns): { latitude: number | null; longitude: number | null } {
  return { latitude: degrees(row['latitude']), longitude: degrees(row['longitude']) };
}
