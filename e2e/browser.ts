import { existsSync } from 'node:fs';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import puppeteer, { type Browser, type ElementHandle, type Page } from 'puppeteer-core';
import { startWorld, type World } from '../packages/server/testing/test-server';

const FLAGS = [
  '--no-sandbox',
  '--disable-dev-shm-usage',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];
/** Without a window of its own it takes half the processor; where it is not installed, the whole browser does. */
const SHELL = '/usr/bin/chromium-headless-shell';
const CHROMIUM = existsSync(SHELL) ? { executablePath: SHELL, headless: 'shell' as const } : { executablePath: '/usr/bin/chromium' };
const WAIT_MS = 40_000;

/** A person at a browser: does what people do, and waits as they would. */
export class Person {
  readonly troubles: string[] = [];

  constructor(
    readonly page: Page,
    readonly base: string,
  ) {
    page.setDefaultTimeout(WAIT_MS);
    page.on('pageerror', (fault) => this.troubles.push(String(fault)));
    page.on('dialog', (dialog) => void dialog.accept());
  }

  async go(path: string): Promise<void> {
    await this.page.goto(this.base + path, { waitUntil: 'load' });
  }

  /** Enters the demo as one of its people, by the page for that. */
  async enter(name: string, path = '/'): Promise<void> {
    await this.go(`/enter?to=${encodeURIComponent(path)}`);
    await this.press('button', name);
    await this.page.waitForSelector('dl-rail');
    await this.sees('dl-top-bar', name.split(' ')[0]!);
  }

  /** Presses what a person would call by this name once it stands still; what moves from under the pointer is said, and pressed anew. */
  async press(selector: string, words: string): Promise<void> {
    for (let tries = 0; tries < 3; tries++) {
      const handle = await this.find(selector, words);
      if (await this.pressed(handle)) return;
      console.log(`"${words}" in ${selector} moved from under the pointer on ${await this.address()}`);
    }
    throw new Error(`"${words}" in ${selector} does not stand still`);
  }

  private async pressed(handle: ElementHandle<HTMLElement>): Promise<boolean> {
    await handle.evaluate((e) => e.scrollIntoView({ block: 'center' }));
    // What is still being loaded above it pushes it from under the pointer.
    await handle.evaluate(async (e) => {
      const place = () => JSON.stringify(e.getBoundingClientRect());
      const frame = () => new Promise((drawn) => requestAnimationFrame(drawn));
      for (let was = ''; was !== place();) {
        was = place();
        await frame();
        await frame();
      }
    });
    const guard = await handle.evaluateHandle((e) => {
      const kinds = ['pointerdown', 'mousedown', 'pointerup', 'mouseup', 'click'];
      let missed = false;
      const look = (event: Event) => {
        const hit = event.target as HTMLElement;
        if (e.contains(hit) || hit.closest('label')?.control === e) return;
        missed = true;
        event.preventDefault();
        event.stopImmediatePropagation();
      };
      for (const kind of kinds) document.addEventListener(kind, look, true);
      return {
        end: () => {
          for (const kind of kinds) document.removeEventListener(kind, look, true);
          return missed;
        },
      };
    });
    const gone = await handle.click().then(
      () => false,
      (fault: unknown) => /detached/.test(String(fault)) || Promise.reject(fault),
    );
    // A press that leaves the page takes the guard with it.
    return !(await guard.evaluate((g) => g.end()).catch(() => false)) && !gone;
  }

  /** Puts the keyboard on what is there by then. */
  async focus(selector: string): Promise<void> {
    await (await this.drawn(selector)).focus();
  }

  async click(selector: string): Promise<void> {
    await (await this.drawn(selector)).click();
  }

  private async drawn(selector: string): Promise<ElementHandle<Element>> {
    return (await this.page.waitForSelector(selector, { visible: true, timeout: WAIT_MS }))!;
  }

  async find(selector: string, words: string): Promise<ElementHandle<HTMLElement>> {
    const handle = await this.page.waitForFunction(
      (s, w) =>
        [...document.querySelectorAll<HTMLElement>(s)].find(
          (e) =>
            e.checkVisibility({ visibilityProperty: true }) &&
            !e.hasAttribute('disabled') &&
            [e.innerText, e.textContent?.replace(/\s+/g, ' '), e.getAttribute('aria-label')].some((said) => said?.includes(w)),
        ),
      { timeout: WAIT_MS },
      selector,
      words,
    );
    return handle.asElement() as unknown as ElementHandle<HTMLElement>;
  }

  /** Waits until words are on the page; fails with what was there instead. */
  async sees(selector: string, words: string): Promise<void> {
    await this.page
      .waitForFunction(
        (s, w) => [...document.querySelectorAll<HTMLElement>(s)].some((e) => e.innerText.includes(w)),
        { timeout: WAIT_MS },
        selector,
        words,
      )
      .catch(async () => {
        const there = await this.page.$$eval(selector, (all) => all.map((e) => (e as HTMLElement).innerText).join(' | ')).catch(() => '');
        throw new Error(`"${words}" did not come up in ${selector}; there was: ${there.slice(0, 1500)}`);
      });
  }

  /** Waits until an element says just these words. */
  async says(selector: string, words: string): Promise<void> {
    await this.page.waitForFunction(
      (s, w) => [...document.querySelectorAll<HTMLElement>(s)].some((e) => e.innerText.trim() === w),
      { timeout: WAIT_MS },
      selector,
      words,
    );
  }

  async gone(selector: string, words: string): Promise<void> {
    await this.page.waitForFunction(
      (s, w) => ![...document.querySelectorAll<HTMLElement>(s)].some((e) => e.innerText.includes(w)),
      { timeout: WAIT_MS },
      selector,
      words,
    );
  }

  /** Types into the field with this label. */
  async fill(label: string, text: string): Promise<void> {
    const element = await this.field(label);
    if ((await element.evaluate((e) => e.tagName)) === 'SELECT') {
      const found = await this.page
        .waitForFunction(
          (e, t) => [...(e as unknown as HTMLSelectElement).options].find((o) => o.text.includes(t))?.value,
          { timeout: WAIT_MS },
          element,
          text,
        )
        .catch(() => {
          throw new Error(`${label} has no choice "${text}"`);
        });
      const value = String(await found.jsonValue());
      await element.select(value);
      return;
    }
    await element.click({ count: 3 });
    if (text === '') await element.press('Backspace');
    await element.type(text);
  }

  /** Types into a field and leaves it, as a table is filled. */
  async change(label: string, text: string): Promise<void> {
    await this.fill(label, text);
    await this.page.keyboard.press('Tab');
  }

  /** Sets a date and time, as the browser's own picker does. */
  async moment(label: string, wall: string): Promise<void> {
    await (
      await this.field(label)
    ).evaluate((e, value) => {
      e.value = value;
      e.dispatchEvent(new Event('change'));
    }, wall);
  }

  /** What stands in the browser's address line now. */
  address(): Promise<string> {
    return this.page.evaluate(() => location.href);
  }

  /** What stands in the field with this label. */
  async value(label: string): Promise<string> {
    return (await this.field(label)).evaluate((e) => e.value);
  }

  private async field(label: string): Promise<ElementHandle<HTMLInputElement>> {
    const handle = await this.page.waitForFunction(
      (l) => {
        const labelled = (within: string) => {
          const all = [...document.querySelectorAll<HTMLLabelElement>(`${within} label`)];
          const found = all.find((e) => e.checkVisibility({ visibilityProperty: true }) && e.innerText.trim().startsWith(l));
          return found && (document.getElementById(found.htmlFor) ?? found.querySelector('input, select, textarea'));
        };
        const named = document.querySelector<HTMLElement>(`[aria-label="${l}"]`);
        return labelled('dl-record-form') ?? (named?.checkVisibility({ visibilityProperty: true }) ? named : labelled(''));
      },
      { timeout: WAIT_MS },
      label,
    );
    return handle.asElement() as unknown as ElementHandle<HTMLInputElement>;
  }

  async keys(...keys: string[]): Promise<void> {
    for (const key of keys) await this.page.keyboard.press(key as never);
  }

  async text(selector: string): Promise<string> {
    return this.page.$eval(selector, (e) => (e as HTMLElement).innerText);
  }

  /** What axe finds wrong on the page, in words. */
  async accessibility(): Promise<string[]> {
    const source = await readFile(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
    await this.page.evaluate((s) => void (0, eval)(s), source).catch(() => this.page.addScriptTag({ content: source }));
    return this.page.evaluate(async () => {
      const { axe } = window as unknown as {
        axe: { run(options: object): Promise<{ violations: { id: string; nodes: { target: string[]; failureSummary: string }[] }[] }> };
      };
      const { violations } = await axe.run({ runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'] });
      return violations.flatMap((v) =>
        v.nodes.slice(0, 3).map((n) => `${v.id} at ${n.target.join(' ')}: ${n.failureSummary.split('\n')[1]?.trim() ?? ''}`),
      );
    });
  }
}

export interface Stage {
  readonly world: World;
  /** Another person with a browser of their own: own cookies, own storage. */
  person(): Promise<Person>;
  /** What is stopped before the world is. */
  onEnd(stop: () => unknown): void;
}

/** A world, and browsers at 1280×800 to walk in it. */
async function setStage(): Promise<Stage> {
  const world = await startWorld({ REPLY_WAIT_SECONDS: 1 });
  const profile = await mkdtemp(join(tmpdir(), 'drumline-chromium-'));
  const browser: Browser = await puppeteer.launch({ ...CHROMIUM, args: FLAGS, userDataDir: profile });
  const ends: (() => unknown)[] = [];
  afterAll(async () => {
    await browser.close();
    for (const stop of ends) await stop();
    await world.stop();
    await rm(profile, { recursive: true, force: true }).catch(() => undefined);
  });
  return {
    world,
    person: async () => {
      const context = await browser.createBrowserContext();
      const page = await context.newPage();
      await page.setViewport({ width: 1280, height: 800 });
      await page.setBypassCSP(true);
      return new Person(page, world.base);
    },
    onEnd: (stop) => void ends.push(stop),
  };
}

type Entering = readonly [name?: string, path?: string];

/**
 * What a journey opens with: a world, and each of its people at a browser of their own, entered as the name and on the page
 * that is said, if any is. It is cleared away after the last test of the file.
 */
export async function openStage<const All extends readonly Entering[]>(...people: All): Promise<[Stage, ...{ [K in keyof All]: Person }]> {
  const stage = await setStage();
  const there: Person[] = [];
  for (const [name, path] of people) {
    const person = await stage.person();
    if (name) await person.enter(name, path);
    there.push(person);
  }
  return [stage, ...there] as unknown as [Stage, ...{ [K in keyof All]: Person }];
}
