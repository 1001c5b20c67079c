import { rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { postMail, startWorld, type World } from '../../../testing/test-server';

let world: World;
beforeAll(async () => (world = await startWorld()));
afterAll(() => world.stop());

describe('files that cannot be kept', () => {
  it('are refused in words while their folder is gone, with nothing half stored, and taken once it is back', async () => {
    const deepa = await world.as('Deepa');
    const ticket = await world.knex('ticket').where({ status: 'queued' }).first('id');
    const put = () => deepa.ask('addUpload', { params: { ticketId: ticket.id }, query: { name: 'a.txt' }, body: Buffer.from('a file') });
    const mail = (id: string) =>
      postMail(world.running.smtpPort, {
        messageId: id,
        from: 'orla.devane@hollin.example',
        to: 'desk@pellworth.example',
        subject: id,
        text: 'x',
        attachments: [{ filename: 'a.txt', content: 'x' }],
      });
    const folder = join(world.folder, 'files');
    await rename(folder, `${folder}.away`);
    // Something else stands where the folder was, as after a disk that did not come up.
    await writeFile(folder, '');
    const refused = await put();
    expect([refused.status, (refused.body as { title: string }).title]).toEqual([507, 'Files cannot be kept']);
    await expect(mail('<away@hollin.example>')).rejects.toMatchObject({ responseCode: 451 });
    expect(await world.knex('upload').where({ name: 'a.txt' })).toHaveLength(0);
    expect(await world.knex('mail_source').where({ message_id: '<away@hollin.example>' })).toHaveLength(0);
    await rm(folder);
    expect((await put()).status).toBe(507);
    await rename(`${folder}.away`, folder);
    expect((await put()).status).toBe(200);
    await mail('<away@hollin.example>');
    expect(await world.knex('message').where({ message_id: '<away@hollin.example>' })).toHaveLength(1);
  });
});
