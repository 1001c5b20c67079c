import { readConfig } from '../../app/config';
import { openDatabase } from '../../app/database';
import { instantOfMillis } from '@core/ground';
import { createToken } from './tokens';

/** npm run token -- PERSON: prints a new API token of a person, named by mail address or name. */
const [name] = process.argv.slice(2);
const knex = openDatabase(
  readConfig({ SESSION_SECRET: 'unused-by-this-command', LEDGER_KEY: 'unused', FILES_DIR: '.', ...process.env }).DATABASE_URL,
  1,
);
try {
  const people = name
    ? await knex('person').whereRaw('lower(email) = lower(?) or lower(name) = lower(?)', [name, name]).select('id', 'name')
    : [];
  if (people.length !== 1) {
    const all = await knex('person').orderBy('name').select('name', 'email');
    console.error(
      `${name ? `No person is called "${name}".` : 'Name a person: npm run token -- PERSON'}\nThere are:\n${all.map((p) => `  ${p.name} (${p.email})`).join('\n')}`,
    );
    process.exitCode = 2;
  } else {
    const { secret } = await createToken(knex, {
      personId: people[0]!.id,
      label: 'made on the command line',
      now: instantOfMillis(Date.now()),
    });
    console.log(
      `${secret}\nUse it as "Authorization: Bearer ${secret}". It has the rights of ${people[0]!.name} and can be revoked in Setup.`,
    );
  }
} finally {
  await knex.destroy();
}
