import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, aoife, sora] = await openStage(['Aoife Brannigan'], ['Sora Minegishi']);
let ticket: { id: string; number: number };
beforeAll(async () => {
  ticket = await stage.world
    .knex('ticket as t')
    .where({ 't.status': 'queued', 't.kind': 'incident' })
    .whereNotNull('t.contact_id')
    .whereNull('t.umbrella_id')
    .orderBy('t.number')
    .first('t.id', 't.number');
});

describe('two people on one ticket', () => {
  it('see each other, and that one writes', async () => {
    await aoife.go(`/tickets/${ticket.id}`);
    await sora.go(`/tickets/${ticket.id}`);
    await aoife.sees('dl-others-here', 'Sora Minegishi is here too');
    await sora.sees('dl-others-here', 'Aoife Brannigan is here too');
    await aoife.keys('i');
    await aoife.page.waitForSelector('dl-composer .note textarea, .composer.note textarea');
    await aoife.page.keyboard.type('I think');
    await sora.sees('dl-others-here', 'Aoife Brannigan is writing here');
    await sora.go('/tickets');
    await aoife.gone('dl-others-here', 'Sora');
  });

  it('ask for each other by @, chosen with the keyboard; who is asked follows and is told', async () => {
    await aoife.page.keyboard.type(' @sor');
    await aoife.sees('dl-mention-list', 'Sora Minegishi');
    await aoife.keys('Enter');
    await aoife.page.keyboard.type('should look.');
    await aoife.press('dl-composer button', 'Keep inside');
    await aoife.sees('article.inside', 'I think @Sora Minegishi should look.');
    await aoife.sees('dl-around-ticket', 'Sora Minegishi');
    await sora.press('dl-top-bar button', 'What is new');
    await sora.sees('dl-top-bar', `asks for you on #${ticket.number}`);
  });
});

describe('related tickets', () => {
  it('are related by number and undone', async () => {
    const other = await stage.world.knex('ticket').where({ status: 'closed' }).orderBy('number').first('number');
    await aoife.fill('Number of a related ticket', String(other.number));
    await aoife.keys('Enter');
    await aoife.sees('dl-around-ticket', `#${other.number}`);
    await aoife.press('dl-around-ticket button', 'undo');
    await aoife.gone('dl-around-ticket', `#${other.number}`);
    await aoife.press('dl-toast-list button', 'Undo');
    await aoife.sees('dl-around-ticket', `#${other.number}`);
    await aoife.fill('Number of a related ticket', 'the other');
    await aoife.keys('Enter');
    await aoife.sees('dl-toast-list', '"the other" is no number of a ticket');
  });
});

describe('files', () => {
  it('are put in and pasted, taken off, and leave with the reply', async () => {
    const file = join(await mkdtemp(join(tmpdir(), 'drumline-file-')), 'plan of the cabinet.txt');
    await writeFile(file, 'Third shelf.');
    await aoife.press('dl-composer [role=tab]', 'Reply to');
    const input = (await aoife.page.waitForSelector('dl-composer-files input[type=file]'))!;
    await (input as unknown as { uploadFile(path: string): Promise<void> }).uploadFile(file);
    await aoife.sees('dl-composer-files', 'plan of the cabinet.txt');
    // A picture pasted from the clipboard shows itself before it is sent.
    await aoife.page.evaluate(async () => {
      const canvas = Object.assign(document.createElement('canvas'), { width: 8, height: 8 });
      const blob = await new Promise<Blob>((done) => canvas.toBlob((b) => done(b!)));
      const data = new DataTransfer();
      data.items.add(new File([blob], 'lamp.png', { type: 'image/png' }));
      document
        .querySelector('dl-composer textarea')!
        .dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
    });
    await aoife.sees('dl-composer-files', 'lamp.png');
    await aoife.page.waitForFunction(() => document.querySelector<HTMLImageElement>('dl-composer-files img')?.naturalWidth === 8);
    // And one that is dropped on it.
    await aoife.page.evaluate(() => {
      const data = new DataTransfer();
      data.items.add(new File(['Row two.'], 'row.txt', { type: 'text/plain' }));
      document.querySelector('.composer')!.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));
    });
    await aoife.sees('dl-composer-files', 'row.txt');
    await aoife.press('dl-composer-files button', 'take off row.txt');
    await aoife.gone('dl-composer-files', 'row.txt');
    await aoife.press('dl-composer-files button', 'take off plan of the cabinet.txt');
    await aoife.gone('dl-composer-files', 'plan of the cabinet.txt');
    await aoife.page.type('dl-composer textarea', 'Which lamp is it?');
    await aoife.press('dl-composer button', 'Send to client');
    await aoife.sees('article.ours', 'Which lamp is it?');
    const mail = await until('it has left', async () => (await stage.world.mailbox()).find((m) => m.text.includes('Which lamp is it?')));
    expect(mail.attachments).toEqual(['lamp.png']);
    await aoife.page.waitForFunction(() =>
      [...document.querySelectorAll<HTMLImageElement>('article.ours img')].some((i) => i.naturalWidth === 8),
    );
    expect([...aoife.troubles, ...sora.troubles]).toEqual([]);
  });
});

describe('on paper', () => {
  it('a ticket shows its conversation and facts, and nothing to be pressed', async () => {
    await aoife.page.emulateMediaType('print');
    const seen = await aoife.page.evaluate(() => ({
      talk: document.querySelector('.talk')!.checkVisibility(),
      buttons: [...document.querySelectorAll('button')].filter((b) => b.checkVisibility()).length,
      rail: document.querySelector('dl-rail')!.checkVisibility(),
      cut: getComputedStyle(document.querySelector('.talk')!).overflowY,
    }));
    await aoife.page.emulateMediaType('screen');
    expect(seen).toEqual({ talk: true, buttons: 0, rail: false, cut: 'visible' });
  });
});
