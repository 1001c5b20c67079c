// The rules of the layout that no compiler knows. Prints what breaks them and ends with 1.
import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, normalize } from 'node:path';
import { checkDomains } from './check-domains.mjs';
import { DOMAINS } from './domains.mjs';
import { top } from './prepare.mjs';

const MOST_LINES = 300;
/** Tables of data may be longer. */
const DATA = /migrations\/|demo-(topics|small-causes|clients|people|harbour-link)\.ts$|-wire\.ts$|app\/rows\.ts$/;
/** What lies beside the domains: what composes them, what speaks to the outside, and the frame. */
const BESIDE = new Set(['app', 'adapters', 'shell', 'ui', 'chain']);
const BARRED_NAMES = /^(utils?|common|helpers?|manager|misc)(\.|$)/;

const files = execFileSync('git', ['-C', top, 'ls-files', '-co', '--exclude-standard', '--', 'packages', 'e2e', 'scripts'], {
  encoding: 'utf8',
})
  .split('\n')
  .filter((file) => /\.(ts|mjs|html|css|scss)$/.test(file) && existsSync(join(top, file)));
const wrong = [];
const say = (file, what) => wrong.push(`${file}: ${what}`);
const ROOTS = ['packages/core/src/', 'packages/server/src/', 'packages/web/src/app/', 'e2e/'];
/** Which package, domain and capability a file belongs to; what lies beside the domains has no capability. */
const place = (file) => {
  const pack = /^(packages\/\w+|\w+)/.exec(file)[1];
  const root = ROOTS.find((each) => file.startsWith(each));
  const [domain, name, ...rest] = root ? file.slice(root.length).split('/') : [];
  return DOMAINS[domain] && rest.length ? { pack, domain, capability: `${domain}/${name}` } : { pack };
};

const core = join(top, 'packages/core/src');
const foldersOf = (path) =>
  existsSync(path) ? readdirSync(path, { withFileTypes: true }).flatMap((entry) => (entry.isDirectory() ? [entry.name] : [])) : [];
const capabilities = new Set(Object.keys(DOMAINS).flatMap((domain) => foldersOf(join(core, domain)).map((name) => `${domain}/${name}`)));
const uses = new Map(['core', 'server', 'web'].map((layer) => [layer, new Map()]));

const headings = new Set([...readFileSync(join(top, 'docs/calculations.md'), 'utf8').matchAll(/^#+ (.+)$/gm)].map(([, words]) => words));

/** Which file defines a route: of two by one name the later would take the place of the other without a word. */
const routes = new Map();

for (const file of files) {
  const name = file.split('/').at(-1);
  const text = readFileSync(join(top, file), 'utf8');
  const { pack, domain, capability } = place(file);
  if (!/^[a-z0-9.-]+$/.test(name) && !/migrations\//.test(file)) say(file, 'file names are kebab-case');
  if (BARRED_NAMES.test(name)) say(file, 'says nothing of what is in it; name it after its one export');
  if (text.split('\n').length > MOST_LINES && !DATA.test(file) && !/\.spec\.ts$|\.e2e\.ts$/.test(file))
    say(file, `is longer than ${MOST_LINES} lines`);
  if (pack === 'web' && text.includes('$any(')) say(file, 'takes a type away in a template; name the element, or use `picked`');
  if (!file.endsWith('.ts')) continue;
  if (file.startsWith(ROOTS[0]) && !file.endsWith('.spec.ts'))
    for (const [, route] of text.matchAll(/^  (\w+): \{\n    method: '/gm)) {
      if (routes.has(route)) say(file, `defines ${route}, as does ${routes.get(route)}`);
      routes.set(route, file);
    }
  for (const [, heading] of text.matchAll(/docs\/calculations\.md, ([A-Z][^.,]*)/g))
    if (!headings.has(heading)) say(file, `cites a heading that docs/calculations.md does not have: ${heading}`);
  for (const [, from] of text.matchAll(/(?:from|import\(|^import)\s*'([^']+)'/gm)) checkImport(file, pack, domain, capability, from);
}

function checkImport(file, pack, domain, capability, from) {
  const test = /\.spec\.ts$|\/testing\/|^e2e\//.test(file);
  if (from.startsWith('@core/')) {
    if (pack === 'packages/core') say(file, 'core names core by its folder, not as @core');
    if (pack === 'packages/standins') say(file, 'a stand-in reads the protocol for itself and imports nothing of ours');
    if (from.split('/').length > 2) say(file, `goes past the door of ${from}`);
    return;
  }
  if (!from.startsWith('.')) return;
  const target = normalize(join(dirname(file), from));
  const to = place(`${target}.ts`);
  if (pack === 'packages/core' && to.pack !== pack) say(file, `core imports only core, not ${from}`);
  if (pack === 'packages/web' && to.pack !== pack) say(file, `the web imports only the web and @core, not ${from}`);
  if (pack === 'packages/server' && to.pack !== pack && !test) say(file, `the server imports only the server and @core, not ${from}`);
  if (pack === 'packages/standins' && to.pack !== pack) say(file, `a stand-in imports nothing of ours, not ${from}`);
  if (test || !capability) return;
  const layer = pack.split('/')[1];
  const [within] = ROOTS.flatMap((root) => (target.startsWith(root) ? [target.slice(root.length)] : []));
  const door = DOMAINS[within] ? within : undefined;
  if (to.domain && to.domain !== domain) say(file, `goes past the door of ${to.domain}: ${from}`);
  if (pack === 'packages/core' && to.domain === domain && to.capability !== capability && target.split('/').length > 5)
    say(file, `goes past the door of ${to.capability}: ${from}`);
  const used = door ?? to.capability;
  if (!used || used === capability || door === domain) return;
  const all = uses.get(layer);
  if (!all.has(capability)) all.set(capability, new Map());
  all.get(capability).set(used, file);
}

for (const pack of ['packages/server/src', 'packages/web/src/app', 'e2e'])
  for (const name of foldersOf(join(top, pack)))
    if (DOMAINS[name]) {
      for (const inner of foldersOf(join(top, pack, name)))
        if (!capabilities.has(`${name}/${inner}`)) say(`${pack}/${name}/${inner}`, 'has no namesake in core');
    } else if (!BESIDE.has(name)) say(`${pack}/${name}`, 'is no domain; the domains are in scripts/domains.mjs');
for (const name of foldersOf(core))
  if (!DOMAINS[name] && name !== 'api' && name !== 'events' && name !== 'facts')
    say(`packages/core/src/${name}`, 'is no domain; the domains are in scripts/domains.mjs');
for (const door of [...Object.keys(DOMAINS), ...capabilities])
  if (!existsSync(join(core, door, 'index.ts'))) say(`packages/core/src/${door}`, 'has no door (index.ts)');
checkDomains(uses, say);

if (wrong.length) console.error(wrong.join('\n'));
console.log(wrong.length ? `${wrong.length} rules of the layout are broken` : `the layout holds: ${files.length} files`);
process.exit(wrong.length ? 1 : 0);
