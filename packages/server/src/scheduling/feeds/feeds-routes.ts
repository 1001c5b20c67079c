import express, { type Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { feedRoutes } from '@core/scheduling';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at } from '../../app/database';
import { hashSecret, isSecret, makeSecret, tokenOf } from '../../house';
import { scheduleFeed } from './schedule-feed';

const TRIES_A_MINUTE = 60;
const addressOf = (app: App, token: string): string => `${app.config.PUBLIC_URL}/schedule/${token}.ics`;

export function bindFeeds(app: App) {
  return bindRoutes(app, feedRoutes, {
    getFeed: async ({ db, actor }) => {
      const feed = await db('schedule_feed').where({ person_id: actor.personId! }).first('nonce');
      return { address: feed ? addressOf(app, tokenOf(app, 'schedule', feed.nonce)) : null };
    },
    makeFeed: async ({ work, actor }) => {
      const secret = makeSecret(app, 'schedule');
      await work
        .tx('schedule_feed')
        .insert({ person_id: actor.personId, ...secret, made_at: at(work.now) })
        .onConflict('person_id')
        .merge();
      await work.tell('person.feed-made', actor.personId!, {});
      return { address: addressOf(app, tokenOf(app, 'schedule', secret.nonce)) };
    },
    endFeed: async ({ work, actor }) => ({ removed: await work.tx('schedule_feed').where({ person_id: actor.personId! }).delete() }),
  });
}

/** The feeds themselves: whoever has the address reads it, as calendars do, without a sign-in. */
export function feedPages(app: App): Router {
  const router = express.Router();
  router.use(rateLimit({ windowMs: 60_000, limit: TRIES_A_MINUTE, standardHeaders: 'draft-7', legacyHeaders: false }));
  router.get('/:file', async (req, res) => {
    const token = req.params.file.replace(/\.ics$/, '');
    const feed = isSecret(token)
      ? await app
          .knex('schedule_feed')
          .where({ token_hash: hashSecret(token) })
          .first('person_id')
      : undefined;
    const person = feed && (await app.knex('person').where({ id: feed.person_id, active: true }).first('id'));
    if (!person) return void res.status(404).type('text').send('There is no such schedule. Its address may have been renewed in My time.');
    res.setHeader('cache-control', 'private, no-cache');
    res.type('text/calendar').send(await scheduleFeed(app, person.id));
  });
  return router;
}
