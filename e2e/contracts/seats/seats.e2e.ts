import { openStage } from '../../browser';

const [stage, leif, sora] = await openStage([], []);

const seatsOf = async (client: string) => {
  const { id } = await stage.world.knex('client').where('name', 'like', `${client}%`).first('id');
  return `/clients/${id}/seats`;
};

describe('the seats of a client', () => {
  it('show the odd ones first, put them on a line with what the next invoice becomes, and take it back', async () => {
    await leif.enter('Leif Sandvik', await seatsOf('Hollin'));
    await leif.sees('h1', 'Seats of Hollin Veterinary Group');
    await leif.sees('.figures', 'billed for nothing €');
    await leif.sees('.figures', '2 on no line');
    await leif.press('.figure', 'on no line');
    await leif.press('th input', 'Choose all that are shown');
    await leif.sees('dl-seats-change', '2 chosen');
    await leif.sees('dl-seats-change [role=status]', ' more.');
    await leif.press('dl-seats-change button', 'Put 2 on it');
    await leif.sees('.figures', '0 on no line');
    await leif.press('dl-toast-list button', 'Undo');
    await leif.sees('.figures', '2 on no line');
  });

  it('are put on lines as rows of a spreadsheet say; what is not understood is named', async () => {
    await leif.press('button', 'Paste rows');
    await leif.fill('Paste rows', '');
    await leif.page.evaluate(() => {
      const box = document.querySelector<HTMLTextAreaElement>('dl-paste-seats textarea')!;
      box.value = 'Nobody Here\t1.12.2026\nWenna Lisle\tsoon\nwenna.lisle@hollin.example\t1.12.2027\t31.12.2027';
      box.dispatchEvent(new Event('input'));
    });
    await leif.sees('dl-paste-seats', '1 understood, 2 not');
    await leif.sees('dl-paste-seats', 'nobody here is called Nobody Here');
    await leif.sees('dl-paste-seats', 'soon is no day');
    // She is on it already, and without an end.
    await leif.press('dl-paste-seats button', 'Put 1 on their lines');
    await leif.sees('dl-toast-list', 'Wenna Lisle is on Workplace already');
  });

  it('say before it is done that nothing changes, and let nobody change them who may not', async () => {
    await leif.press('dl-paste-seats button', 'Leave it');
    await leif.press('.figure', 'billed for nothing');
    await leif.press('td input', 'Choose Oriel Fane');
    await leif.fill('What to do', 'put on');
    await leif.sees('dl-seats-change', 'Nothing changes by this');
    await leif.fill('What to do', 'say the last day on');
    await leif.sees('dl-seats-change [role=status]', 'less');
    await leif.press('dl-seats-change button', 'End 1 seat');
    await leif.sees('dl-seats-grid', 'to 24 Nov 2026');
    await sora.enter('Sora Minegishi', await seatsOf('Hollin'));
    await sora.sees('dl-seats-grid', 'Bram Gantry');
    expect(await sora.page.$('dl-seats-grid input')).toBeNull();
    expect(await leif.accessibility()).toEqual([]);
    expect([...leif.troubles, ...sora.troubles]).toEqual([]);
  });
});
