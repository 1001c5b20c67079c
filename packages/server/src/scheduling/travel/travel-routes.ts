import { refuse } from '@core/ground';
import { pairOf, travelMinutes, travelRoutes, type Place } from '@core/scheduling';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at, type Db } from '../../app/database';
import { placeOf, readKnownTravel, settlePlaces } from './read-travel';

export function bindTravel(app: App) {
  return bindRoutes(app, travelRoutes, {
    listPlaces: async ({ db }) => {
      const places = await readPlaces(db);
      return { places: places.map(({ place, name, isSite }) => ({ ...place, name, isSite })) };
    },
    listTravel: async ({ db, query }) => {
      const [places, known, rows] = [
        await readPlaces(db),
        await readKnownTravel(db),
        await db('travel_time as r').leftJoin('person as p', 'p.id', 'r.person_id').select('r.*', 'p.name'),
      ];
      const from = places.find((p) => p.place.id === query.from);
      if (!from) return refuse('not-found', 'There is no such place.');
      const kept = new Map(rows.map((r) => [pairOf(r.place_a, r.place_b), r]));
      const pairs = places
        .filter((p) => p.place.id !== from.place.id)
        .map((to) => {
          const row = kept.get(pairOf(from.place.id, to.place.id));
          const without = to.place.latitude === null || from.place.latitude === null;
          return {
            a: from.place.id,
            aName: from.name,
            b: to.place.id,
            bName: to.name,
            minutes: travelMinutes(from.place, to.place, known),
            source: row ? (row.source as string) : without ? 'not known' : 'coordinates',
            by: (row?.name as string | undefined) ?? null,
          };
        });
      return { pairs: pairs.sort((a, b) => a.minutes - b.minutes || (a.bName < b.bName ? -1 : 1)) };
    },
    setTravel: async ({ work, params, body, actor, now }) => {
      const places = await readPlaces(work.tx);
      const [a, b] = [params.aId, params.bId].sort() as [string, string];
      if (a === b || ![a, b].every((id) => places.some((p) => p.place.id === id)))
        return refuse('not-found', 'There are no two such places.');
      await work.tx('travel_time').where({ place_a: a, place_b: b }).delete();
      if (body.minutes !== null)
        await work
          .tx('travel_time')
          .insert({ place_a: a, place_b: b, minutes: body.minutes, source: 'by hand', set_at: at(now), person_id: actor.personId });
      await settlePlaces(work, app.house, [a, b]);
      return {};
    },
  });
}

/** Sites of clients, and where technicians begin their day. */
async function readPlaces(db: Db): Promise<{ place: Place; name: string; isSite: boolean }[]> {
  const sites = await db('site as s')
    .join('client as c', 'c.id', 's.client_id')
    .whereNull('c.archived_at')
    .orderBy(['c.name', 's.name'])
    .select('s.id', 's.latitude', 's.longitude', 's.name', 'c.name as client');
  const people = await db('person')
    .where({ technician: true, active: true })
    .whereNotNull('home_latitude')
    .orderBy('name')
    .select('id', 'name', 'home_name', 'home_latitude', 'home_longitude');
  return [
    ...people.map((p) => ({
      place: placeOf(p.id, p.home_latitude, p.home_longitude)!,
      name: `${p.home_name ?? 'start'} (${p.name})`,
      isSite: false,
    })),
    ...sites.map((s) => ({ place: placeOf(s.id, s.latitude, s.longitude)!, name: `${s.client}, ${s.name}`, isSite: true })),
  ];
}
