import { randomUUID } from 'node:crypto';
import { STORY } from '../../../testing/test-server';
import { openDatabase } from '../database';
import { migrate } from '../migrate';
import { loadDemo } from './load-demo';

describe('the demo', () => {
  it.each([1, 5])('loads with a past of %i days', async (days) => {
    const base = process.env['DRUMLINE_TEST_URL']!;
    const name = `t_${randomUUID().replaceAll('-', '')}`;
    const admin = openDatabase(`${base}/postgres`, 1);
    await admin.raw(`create database ${name}`);
    const knex = openDatabase(`${base}/${name}`, 2);
    try {
      await migrate(knex, `${base}/${name}`);
      await loadDemo(knex, { real: STORY, days });
      const waiting = await knex('ticket').where({ kind: 'unsorted' }).whereNot({ status: 'closed' }).count('* as n').first();
      expect(Number(waiting!['n'])).toBeGreaterThan(0);
    } finally {
      await knex.destroy();
      await admin.raw(`drop database if exists ${name} with (force)`);
      await admin.destroy();
    }
  });
});
