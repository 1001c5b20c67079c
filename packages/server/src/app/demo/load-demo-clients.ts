import type { Knex } from 'knex';
import { plusDays, type LocalDate } from '@core/ground';
import { DEMO_ASSETS, DEMO_CLIENTS, DEMO_FIRST_NAMES, DEMO_ITEMS, DEMO_LAST_NAMES, type DemoClient } from './demo-clients';
import { DemoRandom } from './demo-random';
import { UNSORTED } from './demo-story';

const SEED = 77;
/** Sites of a client lie so many degrees apart at most. */
const NEAR = 0.05;
const DIRECTIONS = [
  'Ring at the side door; the front is for visitors. Parking behind the house.',
  'Ask at the desk for the key of the comms cupboard, first floor.',
  'Through the yard, second gate. Low ceiling: no ladder over two metres.',
];

/** Clients with their sites, contacts and assets, and the catalogue. */
export async function loadDemoClients(tx: Knex.Transaction, today: LocalDate): Promise<void> {
  const random = new DemoRandom(SEED);
  const divisions = await tx('division').select('id', 'name');
  const ostrand = (await tx('calendar').where({ name: 'Ostrand hours' }).first('id'))!;
  const promises = await tx('promise').select('id', 'name');
  const engineer = (await tx('grade').where({ name: 'engineer' }).first('id'))!;
  for (const [index, client] of DEMO_CLIENTS.entries()) {
    const [row] = await tx('client')
      .insert({
        division_id: divisions.find((d) => d.name === (client.division ?? 'Managed services'))!.id,
        number: tx.raw(`nextval('client_number')`),
        name: client.name,
        domains: [client.domain],
        zone: client.zone,
        calendar_id: client.zone === 'America/New_York' ? ostrand.id : null,
        promise_id: promises.find((p) => p.name === client.promise)?.id ?? null,
        street: `${index + 2} ${client.sites[0]}`,
        city: client.city,
        postcode: `${client.prefix}${index + 1} ${10 + index}${client.prefix}`,
        country: client.country ?? 'IE',
        tax_number: client.taxExempt ? null : `IE${7_654_300 + index}W`,
        tax_exempt: client.taxExempt ?? false,
        invoice_email: `accounts@${client.domain}`,
        payment_days: client.paymentDays,
        since: plusDays(today, -900 + index * 61),
      })
      .returning('id');
    if (client.rate)
      await tx('rate_rule').insert({
        level: 'client',
        client_id: row!.id,
        grade_id: engineer.id,
        rate: client.rate,
        valid_from: '2020-01-01',
      });
    await loadPeopleAndAssets(tx, { random, client, clientId: row!.id });
  }
  await tx('catalogue_item').insert(
    DEMO_ITEMS.map(([number, name, category, price, cost, basis, percent]) => ({
      number,
      name,
      category,
      price,
      cost,
      basis,
      currency: 'EUR',
      tax_category: percent === '0' ? 'Z' : 'S',
      tax_percent: percent,
    })),
  );
}

async function loadPeopleAndAssets(
  tx: Knex.Transaction,
  { random, client, clientId }: { readonly random: DemoRandom; readonly client: DemoClient; readonly clientId: string },
): Promise<void> {
  const sites = await tx('site')
    .insert(
      client.sites.map((name, i) => ({
        client_id: clientId,
        name,
        street: `${i + 1} ${name}`,
        city: client.city,
        postcode: `${client.prefix}${i + 1} 4${client.prefix}`,
        latitude: (client.at[0] + random.next() * NEAR).toFixed(5),
        longitude: (client.at[1] - random.next() * NEAR).toFixed(5),
        directions: DIRECTIONS[i % DIRECTIONS.length],
      })),
    )
    .returning('id');
  const named = UNSORTED.filter((u) => u.client === client.name).map((u) => `${u.first} ${u.last}`);
  const names = new Set<string>(named);
  while (names.size < client.contacts) names.add(`${random.pick(DEMO_FIRST_NAMES)} ${random.pick(DEMO_LAST_NAMES)}`);
  const contacts = await tx('contact')
    .insert(
      [...names].map((name, i) => ({
        client_id: clientId,
        site_id: sites[i % sites.length]!.id,
        name,
        email: `${name.toLowerCase().replace(' ', '.')}@${client.domain}`,
        phone: `+353 20 91${random.whole(1, 9)} ${String(random.whole(0, 9999)).padStart(4, '0')}`,
        title: random.pick(client.titles),
        priority: i === 3,
      })),
    )
    .returning(['id', 'site_id']);
  const assets = Array.from({ length: client.assets }, (_, i) => {
    const kind = i === 2 ? DEMO_ASSETS[2] : DEMO_ASSETS[i % DEMO_ASSETS.length]!;
    const user = random.pick(contacts);
    return {
      client_id: clientId,
      site_id: user.site_id,
      contact_id: random.chance(70) ? user.id : null,
      number: `${client.prefix}-${kind.code}-${String(i + 1).padStart(3, '0')}`,
      name: kind.name,
      make: kind.make,
    };
  });
  await tx('asset').insert(assets);
}
