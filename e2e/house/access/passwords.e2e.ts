import { until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, callum] = await openStage([]);

describe('a password', () => {
  it('that was forgotten is set anew by the link in a mail, once', async () => {
    await callum.go('/enter');
    await callum.press('a', 'I have forgotten my password');
    await callum.sees('h1', 'Set a new password');
    await callum.fill('Mail address', 'callum.strachan@pellworth.example');
    await callum.press('button', 'Mail me a link');
    await callum.sees('main', 'a link is on its way');
    const mail = await until('the mail', async () => (await stage.world.mailbox()).find((m) => m.subject === 'Set a new password'));
    const path = /\/password\?token=\S+/.exec(mail.text)![0];
    await callum.go(path);
    await callum.fill('New password', 'short');
    await callum.press('button', 'Set the password');
    await callum.sees('main', 'at least 12 characters');
    await callum.fill('New password', 'a long walk at low tide');
    await callum.press('button', 'Set the password');
    await callum.sees('main', 'Your new password holds');
    expect(await callum.accessibility()).toEqual([]);
    await callum.go(path);
    await callum.fill('New password', 'another long walk');
    await callum.press('button', 'Set the password');
    await callum.sees('main', 'worth nothing any more');
    await callum.go('/enter');
    await callum.sees('h2', 'Sign in with your password');
    await callum.fill('Mail address', 'callum.strachan@pellworth.example');
    await callum.fill('Password', 'a long walk at low tide');
    await callum.press('button', 'Sign in');
    await callum.sees('dl-top-bar', 'Callum');
  });

  it('that is known is changed under Your account, and who keeps Setup makes a link for somebody else', async () => {
    await callum.press('dl-top-bar .person', 'Callum');
    await callum.press('a', 'Your account');
    await callum.fill('Password now', 'wrong');
    await callum.fill('New password', 'low tide at the north quay');
    await callum.press('button', 'Change the password');
    await callum.sees('[role=alert]', 'That is not your password');
    await callum.fill('Password now', 'a long walk at low tide');
    await callum.press('button', 'Change the password');
    await callum.sees('dl-toast-list', 'The new password holds');
    const aoife = await stage.person();
    await aoife.enter('Aoife Brannigan', '/account');
    await aoife.fill('Who', 'Callum Strachan');
    await aoife.press('button', 'Make a link');
    await aoife.sees('.secret', '/password?token=');
    expect(await aoife.accessibility()).toEqual([]);
  });
});
