// Which domain uses which, and circles among capabilities: the part of the structure check that reads scripts/domains.mjs.
import { DOMAINS } from './domains.mjs';

/** @param uses of each layer: from each `domain/capability` to those it imports, with a file that does */
export function checkDomains(uses, say) {
  for (const [layer, graph] of uses) {
    const within = new Map();
    for (const [from, all] of graph) {
      within.set(from, []);
      for (const [to, file] of all) {
        const [a, b] = [from.split('/')[0], to.split('/')[0]];
        if (a === b || DOMAINS[a].includes(b)) within.get(from).push(to);
        else say(file, `${a} may not use ${b}: ${from} → ${to}; the table is in scripts/domains.mjs`);
      }
    }
    for (const circle of circles(within)) say(`packages/${layer}`, `capabilities import each other in a circle: ${circle.join(', ')}`);
  }
}

/** Sets of capabilities that reach each other, each as its names in order of the alphabet (Tarjan, Depth-first search and linear graph algorithms, 1972). */
function circles(graph) {
  const seen = new Map();
  const low = new Map();
  const open = [];
  const found = [];
  const visit = (node) => {
    seen.set(node, seen.size);
    low.set(node, seen.get(node));
    open.push(node);
    for (const next of graph.get(node) ?? [])
      if (!seen.has(next)) {
        visit(next);
        low.set(node, Math.min(low.get(node), low.get(next)));
      } else if (open.includes(next)) low.set(node, Math.min(low.get(node), seen.get(next)));
    if (low.get(node) !== seen.get(node)) return;
    const circle = open.splice(open.indexOf(node));
    if (circle.length > 1) found.push(circle.sort());
  };
  for (const node of graph.keys()) if (!seen.has(node)) visit(node);
  return found;
}
