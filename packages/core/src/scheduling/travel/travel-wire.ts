import { number } from 'yup';
import { count, defineRoutes, degrees, id, list, nothing, optionalText, record, text, yes, type Wire } from '../../ground';

/** Where work is done or a day begins. */
export const placeFields = { id: id(), latitude: degrees(90), longitude: degrees(180) };
/** Minutes between two places as they are known, the smaller id first. */
export const knownTravelSchema = record({ a: id(), b: id(), minutes: count() });
export const travelPairSchema = record({
  a: id(),
  aName: text(),
  b: id(),
  bName: text(),
  minutes: count(),
  /** Where the minutes come from: coordinates, travel that was logged, or somebody's word. */
  source: text(40),
  by: optionalText(),
});
export type TravelPairWire = Wire<typeof travelPairSchema>;

export const travelRoutes = defineRoutes({
  listTravel: {
    method: 'GET',
    path: '/travel',
    summary: 'Minutes between a place and all others',
    permission: 'dispatch.read',
    query: record({ from: id() }),
    answer: record({ pairs: list(travelPairSchema) }),
  },
  listPlaces: {
    method: 'GET',
    path: '/travel/places',
    summary: 'Sites, and where technicians begin their day',
    permission: 'dispatch.read',
    answer: record({ places: list(record({ id: id(), name: text(), isSite: yes(), latitude: degrees(90), longitude: degrees(180) })) }),
  },
  setTravel: {
    method: 'PUT',
    path: '/travel/:aId/:bId',
    summary: 'Say how long it is between two places; null goes back to what coordinates say',
    permission: 'dispatch.book',
    body: record({ minutes: number().integer('a whole number').min(0, 'at least 0').max(600, 'at most 600').defined().nullable() }),
    answer: nothing(),
  },
});
