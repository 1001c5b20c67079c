// The rules of the layout that no compiler knows. Prints what breaks them and ends with 1.
import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, normalize } from 'node:path';
import { top } from './prepare.mjs';

const MOST_LINES = 300;
/** Tables of data may be longer. */
const DATA = /migrations\/|demo-(topics|clients|people|harbour-link)\.ts$|-wire\.ts$/;
const NOT_CAPABILITIES = new Set(['app', 'adapters', 'shell', 'ui', 'testing']);
const BARRED_NAMES = /^(utils?|common|helpers?|manager|misc)(\.|$)/;

const files = execFileSync('git', ['-C', top, 'ls-files', '-co', '--exclude-standard', '--', 'packages', 'e2e', 'scripts'], {
  encoding: 'utf8',
})
  .split('\n')
  .filter((file) => /\.(ts|mjs|html|css|scss)$/.test(file) && existsSync(join(top, file)));
const wrong = [];
const say = (file, what) => wrong.push(`${file}: ${what}`);
const place = (file) => {
  const [, pack, ...rest] = /^packages\/(\w+)\/(?:src\/)?(?:app\/)?(.*)$/.exec(file) ?? [];
  return pack
    ? { pack: `packages/${pack}`, capability: pack === 'web' ? rest[0].split('/')[0] : file.split('/')[3] }
    : { pack: file.split('/')[0], capability: undefined };
};

const capabilities = new Set(readdirSync(join(top, 'packages/core/src')));
const uses = new Map();

for (const file of files) {
  const name = file.split('/').at(-1);
  const text = readFileSync(join(top, file), 'utf8');
  const { pack, capability } = place(file);
  if (!/^[a-z0-9.-]+$/.test(name) && !/migrations\//.test(file)) say(file, 'file names are kebab-case');
  if (BARRED_NAMES.test(name)) say(file, 'says nothing of what is in it; name it after its one export');
  if (text.split('\n').length > MOST_LINES && !DATA.test(file) && !/\.spec\.ts$|\.e2e\.ts$/.test(file))
    say(file, `is longer than ${MOST_LINES} lines`);
  if (!file.endsWith('.ts')) continue;
  for (const [, from] of text.matchAll(/(?:from|import\()\s*'([^']+)'/g)) checkImport(file, pack, capability, from);
}

function checkImport(file, pack, capability, from) {
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
  if (pack === 'packages/core' && !test && to.capability !== capability) {
    const [, folder, file_] = /^(?:packages\/core\/src\/)([^/]+)(?:\/(.+))?$/.exec(target) ?? [];
    if (file_ && file_ !== 'index') say(file, `goes past the door of ${folder}: ${from}`);
    if (!uses.has(capability)) uses.set(capability, new Map());
    uses.get(capability).set(folder, file);
  }
}

for (const pack of ['packages/server/src', 'packages/web/src/app'])
  for (const entry of readdirSync(join(top, pack), { withFileTypes: true }))
    if (entry.isDirectory() && !NOT_CAPABILITIES.has(entry.name) && !capabilities.has(entry.name))
      say(`${pack}/${entry.name}`, 'has no namesake in core');
for (const capability of capabilities)
  if (!existsSync(join(top, 'packages/core/src', capability, 'index.ts'))) say(`packages/core/src/${capability}`, 'has no door (index.ts)');

// Cycles between core capabilities, by depth first search.
const done = new Set();
function walk(capability, path) {
  if (path.includes(capability))
    return say(`packages/core/src/${capability}`, `a cycle: ${[...path.slice(path.indexOf(capability)), capability].join(' → ')}`);
  if (done.has(capability)) return;
  for (const next of uses.get(capability)?.keys() ?? []) walk(next, [...path, capability]);
  done.add(capability);
}
for (const capability of capabilities) walk(capability, []);

if (wrong.length) console.error(wrong.join('\n'));
console.log(wrong.length ? `${wrong.length} rules of the layout are broken` : `the layout holds: ${files.length} files`);
process.exit(wrong.length ? 1 : 0);
