// npm run mutate [-- CAPABILITY …] [--each=12] [--seed=1]: changes an operator or a number of core, one at a time, runs the
// capability's own specs, and says what share they noticed. In a copy, so that nothing of the checkout is touched.
import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import ts from 'typescript';
import { DOMAINS } from './domains.mjs';
import { needPackages, top } from './prepare.mjs';
import { CHANGES_NOTHING } from './changes-nothing.mjs';

const args = process.argv.slice(2);
const option = (name, usual) => Number(args.find((a) => a.startsWith(`--${name}=`))?.split('=')[1] ?? usual);
const [each, seed] = [option('each', 12), option('seed', 1)];
const chosen = args.filter((a) => !a.startsWith('--'));
needPackages();

const SWAPS = {
  '+': '-',
  '-': '+',
  '*': '/',
  '/': '*',
  '<': '<=',
  '<=': '<',
  '>': '>=',
  '>=': '>',
  '===': '!==',
  '!==': '===',
  '&&': '||',
  '||': '&&',
  '??': '&&',
};

/** Every single change of a file: where, what stands there, and what is put there instead. */
function mutants(path) {
  const text = readFileSync(path, 'utf8');
  const source = ts.createSourceFile(path, text, ts.ScriptTarget.Latest, true);
  const found = [];
  const add = (from, to, instead) =>
    found.push({ from, to, instead, line: source.getLineAndCharacterOfPosition(from).line + 1, was: text.slice(from, to) });
  const visit = (node) => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const instead = SWAPS[node.operatorToken.getText()];
      if (instead) add(node.operatorToken.getStart(), node.operatorToken.end, instead);
    }
    if (ts.isNumericLiteral(node)) add(node.getStart(), node.end, `(${node.text} + 1)`);
    if (node.kind === ts.SyntaxKind.TrueKeyword) add(node.getStart(), node.end, 'false');
    if (node.kind === ts.SyntaxKind.FalseKeyword) add(node.getStart(), node.end, 'true');
    if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
      add(node.getStart(), node.operand.getStart(), '');
    ts.forEachChild(node, visit);
  };
  visit(source);
  return { text, found };
}

/** The same sample for the same seed (mulberry32). */
function random(state) {
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const copy = mkdtempSync(join(tmpdir(), 'drumline-mutate-'));
for (const name of ['packages/core', 'docs', 'package.json', 'tsconfig.json'])
  cpSync(join(top, name), join(copy, name), { recursive: true });
symlinkSync(join(top, 'node_modules'), join(copy, 'node_modules'));
const { projects } = (await import('../jest.config.mjs')).default;
writeFileSync(join(copy, 'jest.config.json'), JSON.stringify(projects.find((p) => p.displayName === 'core')));
const core = join(copy, 'packages/core/src');

/** A change that lets a loop run on is noticed by its time. */
const HANGS_MS = 60_000;

/** Whether the specs of a capability fail. */
function noticed(folder) {
  const { status } = spawnSync(
    'node',
    [
      '--experimental-vm-modules',
      '--no-warnings',
      'node_modules/.bin/jest',
      '--config',
      'jest.config.json',
      '--bail',
      '--silent',
      '--forceExit',
      '--runInBand',
      `packages/core/src/${folder}/`,
    ],
    { cwd: copy, stdio: 'ignore', timeout: HANGS_MS, killSignal: 'SIGKILL' },
  );
  return status !== 0;
}

const rows = [];
const missed = [];
for (const domain of Object.keys(DOMAINS))
  for (const name of readdirSync(join(core, domain), { withFileTypes: true }).flatMap((e) => (e.isDirectory() ? [e.name] : []))) {
    const folder = `${domain}/${name}`;
    if (chosen.length && !chosen.some((c) => folder === c || domain === c || name === c)) continue;
    const files = readdirSync(join(core, folder)).filter(
      (f) => /\.ts$/.test(f) && !/(\.spec|-wire|^index)\.ts$/.test(f) && !f.startsWith('made-up'),
    );
    const specs = readdirSync(join(core, folder)).some((f) => f.endsWith('.spec.ts'));
    const all = files.flatMap((file) => {
      const path = join(core, folder, file);
      const { text, found } = mutants(path);
      return found.map((m) => ({
        ...m,
        path,
        text,
        name: `${folder}/${file}:${m.line} ${m.was.trim()} → ${m.instead.trim() || '(gone)'}`,
      }));
    });
    if (!specs || !all.length) continue;
    if (noticed(folder)) throw new Error(`the specs of ${folder} fail before anything is changed`);
    const next = random(seed);
    const sample = all
      .filter((m) => !CHANGES_NOTHING.includes(m.name))
      .map((m) => ({ m, at: next() }))
      .sort((a, b) => a.at - b.at)
      .slice(0, each)
      .map(({ m }) => m);
    let seen = 0;
    for (const m of sample) {
      writeFileSync(m.path, m.text.slice(0, m.from) + m.instead + m.text.slice(m.to));
      if (noticed(folder)) seen++;
      else missed.push(m.name);
      writeFileSync(m.path, m.text);
    }
    rows.push({ folder, seen, of: sample.length });
    console.log(`${folder.padEnd(32)} ${String(seen).padStart(3)} of ${String(sample.length).padStart(3)} (${all.length} there are)`);
  }
rmSync(copy, { recursive: true, force: true });
const [seen, of] = [rows.reduce((a, r) => a + r.seen, 0), rows.reduce((a, r) => a + r.of, 0)];
console.log(`noticed ${seen} of ${of}, ${((100 * seen) / Math.max(1, of)).toFixed(0)} %`);
if (missed.length) console.log(['not noticed:', ...missed].join('\n  '));
