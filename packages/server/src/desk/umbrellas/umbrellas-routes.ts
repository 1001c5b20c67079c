import { isRefusal } from '@core/ground';
import { umbrellaRoutes } from '@core/desk';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { checkUmbrellas } from './check-umbrellas';
import { detachMember } from './detach-member';
import { joinUmbrella } from './join-umbrella';
import { openUmbrella } from './open-umbrella';
import { listUmbrellas, readMembers } from './umbrella-read-model';
import { readUpdateMails } from './update-mails';
import { tellJoined } from './tell-joined';
import { takeBackUpdate, updateMembers } from './update-members';

export function bindUmbrellas(app: App) {
  const { house } = app;
  return bindRoutes(app, umbrellaRoutes, {
    listUmbrellas: async ({ db }) => ({ umbrellas: await listUmbrellas(db) }),
    openUmbrella: async ({ work, body }) => {
      const opened = await openUmbrella(work, house, body);
      return isRefusal(opened) ? opened : { ...opened, told: body.tell ? await tellJoined(app, work, body.memberIds) : 0 };
    },
    listMembers: async ({ db, params }) => ({ members: await readMembers(db, params.ticketId) }),
    joinUmbrella: async ({ work, params, body }) => {
      const joined = await joinUmbrella(work, house, { umbrellaId: params.ticketId, form: body });
      return isRefusal(joined) ? joined : { ...joined, told: body.tell ? await tellJoined(app, work, body.memberIds) : 0 };
    },
    detachMember: ({ work, params }) => detachMember(work, house, params.ticketId),
    previewUpdate: ({ db, params, body, actor }) =>
      readUpdateMails(db, house, { umbrellaId: params.ticketId, form: body, author: { name: actor.name } }),
    updateMembers: ({ work, params, body }) => updateMembers(app, work, { umbrellaId: params.ticketId, form: body }),
    takeBackUpdate: ({ work, params }) => takeBackUpdate(work, params.updateId),
    checkUmbrellas: ({ db, now }) => checkUmbrellas(db, house, now),
  });
}
