// The registry used here leaves out binaries for other platforms, npm then leaves them out of the lock
// file, and `npm ci` refuses. Each optional dependency that nothing in the lock resolves gets an entry
// that no platform matches. Run after every `npm install`.
import { readFileSync, writeFileSync } from 'node:fs';

const file = new URL('../package-lock.json', import.meta.url);
const lock = JSON.parse(readFileSync(file, 'utf8'));

const resolves = (from, name) => {
  for (let at = from; ; at = at.slice(0, Math.max(0, at.lastIndexOf('/node_modules/')))) {
    const place = at ? `${at}/node_modules/${name}` : `node_modules/${name}`;
    if (lock.packages[place]) return true;
    if (!at) return false;
    if (!at.includes('/node_modules/')) {
      if (lock.packages[`node_modules/${name}`]) return true;
      return false;
    }
  }
};

let added = 0;
for (const [place, entry] of Object.entries({ ...lock.packages })) {
  for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
    if (resolves(place, name)) continue;
    lock.packages[`node_modules/${name}`] = { version, optional: true, os: ['none'] };
    added++;
  }
}
writeFileSync(file, JSON.stringify(lock, null, 2) + '\n');
console.log(`${added} missing optional packages noted in package-lock.json`);
