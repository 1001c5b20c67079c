/** Where work is done or begins, with its coordinates in degrees where they are known. */
export interface Place {
  readonly id: string;
  readonly latitude: number | null;
  readonly longitude: number | null;
}

/** Minutes between two places as kept by hand or learned from logged travel; the order of the two says nothing. */
export type KnownTravel = ReadonlyMap<string, number>;

const EARTH_KM = 6371;
const DETOUR = 1.3;
const KM_AN_HOUR = 50;
const SETTING_OUT_MINUTES = 5;

/** The key of a pair of places in what is known. */
export function pairOf(a: string, b: string): string {
  return a < b ? `${a} ${b}` : `${b} ${a}`;
}

/** The straight line between two places in km, on a sphere. */
export function straightLineKm(a: Place, b: Place): number | undefined {
  if (a.latitude === null || a.longitude === null || b.latitude === null || b.longitude === null) return undefined;
  const rad = (degrees: number) => (degrees * Math.PI) / 180;
  const [dLat, dLon] = [rad(b.latitude - a.latitude), rad(b.longitude - a.longitude)];
  const h = Math.sin(dLat / 2) ** 2 + Math.cos(rad(a.latitude)) * Math.cos(rad(b.latitude)) * Math.sin(dLon / 2) ** 2;
  return 2 * EARTH_KM * Math.asin(Math.min(1, Math.sqrt(h)));
}

/**
 * Whole minutes from one place to another: what is known, else the straight line × 1.3 at 50 km/h + 5 min; none
 * within a place, nor where coordinates are missing. Source: docs/calculations.md, Travel.
 */
export function travelMinutes(a: Place | null, b: Place | null, known: KnownTravel): number {
  if (!a || !b || a.id === b.id) return 0;
  const kept = known.get(pairOf(a.id, b.id));
  if (kept !== undefined) return kept;
  const km = straightLineKm(a, b);
  return km === undefined ? 0 : Math.round(((km * DETOUR) / KM_AN_HOUR) * 60 + SETTING_OUT_MINUTES);
}
