import type { Row } from '../../app/rows';

export const degrees = (text: string | null) => (text === null ? null : Number(text));

/** Coordinates as they are kept, in numbers. */
export function coordinatesOf(row: Row<'site', 'latitude' | 'longitude'>): { latitude: number | null; longitude: number | null } {
  return { latitude: degrees(row.latitude), longitude: degrees(row.longitude) };
}
