import type { AnySchema, SchemaDescription, SchemaFieldDescription, SchemaInnerTypeDescription, SchemaObjectDescription } from 'yup';
import { isStorableText } from '../text';

/** How large what a schema takes may be. It is taken before a single item is looked at. */
export type Measure =
  | { readonly is: 'record'; readonly fields: Readonly<Record<string, Measure>> }
  | { readonly is: 'list'; readonly most: number; readonly of: Measure }
  | { readonly is: 'text'; readonly most: number }
  | { readonly is: 'scalar' }
  /** Whatever JSON somebody wrote, such as a rule; the schema checks it once it is small enough. */
  | { readonly is: 'free' };

/** Checking stops after so many faults: nobody mends more at a time, and more would only keep others waiting. */
export const MOST_FAULTS = 50;
/** What is free may hold so much. */
const MOST_NODES = 2000;
const MOST_DEPTH = 24;
const MOST_LETTERS = 10_000;
const UUID_LETTERS = 36;
/** Below this size the schema itself says, in words of the field, what is allowed. */
const LEAST_TEXT = 200;
const NOT_TEXT = 'text that holds no NUL and no half of a letter';

/** @throws Error where the schema lets in a list or a text of any size, naming it: a fault of who wrote it */
export function measureOf(schema: AnySchema, path = ''): Measure {
  return measureDescribed(schema.describe(), path);
}

function measureDescribed(described: SchemaFieldDescription, path: string): Measure {
  switch (described.type) {
    case 'object': {
      const fields = (described as SchemaObjectDescription).fields;
      return {
        is: 'record',
        fields: Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, measureDescribed(field, `${path}.${name}`)])),
      };
    }
    case 'array': {
      const { innerType } = described as SchemaInnerTypeDescription;
      const most = bound(described as SchemaDescription);
      if (most === undefined || !innerType || Array.isArray(innerType)) throw new Error(`${path} is a list of any size`);
      return { is: 'list', most, of: measureDescribed(innerType as SchemaFieldDescription, `${path}[]`) };
    }
    case 'string': {
      const most = bound(described as SchemaDescription);
      if (most === undefined) throw new Error(`${path} is a text of any size`);
      return { is: 'text', most: Math.max(most, LEAST_TEXT) };
    }
    case 'mixed':
      return (described as SchemaDescription).oneOf.length ? { is: 'scalar' } : { is: 'free' };
    default:
      return { is: 'scalar' };
  }
}

function bound({ tests, oneOf }: SchemaDescription): number | undefined {
  const most = tests.find((test) => test.name === 'max' || test.name === 'length')?.params;
  const size = most?.['max'] ?? most?.['length'];
  if (typeof size === 'number') return size;
  if (oneOf.length) return Math.max(...oneOf.map((value) => String(value ?? '').length));
  return tests.some((test) => test.name === 'uuid') ? UUID_LETTERS : undefined;
}

export type Faults = Readonly<Record<string, string>>;

/** Trims as the schemas do, so that blanks around a text do not count. */
const lettersOf = (text: string) => (text.length > MOST_LETTERS * 10 ? text.length : text.trim().length);

/**
 * What is too large, of the wrong shape, or not asked for, by path; nothing where all fits. The time it takes is
 * bounded by the measure and not by what was given.
 */
export function measureInput(measure: Measure, given: unknown): Faults {
  const faults: Record<string, string> = {};
  let count = 0;
  const say = (path: string, what: string) => {
    count++;
    faults[clipped(path || 'body')] ??= what;
  };
  const walk = (m: Measure, value: unknown, path: string): void => {
    if (count >= MOST_FAULTS || value === undefined || value === null) return;
    switch (m.is) {
      case 'record': {
        if (typeof value !== 'object' || Array.isArray(value)) return say(path, 'an object with named fields');
        const names = Object.keys(value);
        const unknown = names.filter((name) => !Object.hasOwn(m.fields, name));
        for (const name of unknown.slice(0, MOST_FAULTS))
          say(join(path, name), `no such field; there are ${Object.keys(m.fields).join(', ') || 'none'}`);
        for (const name of names) if (Object.hasOwn(m.fields, name)) walk(m.fields[name]!, (value as never)[name], join(path, name));
        return;
      }
      case 'list':
        if (!Array.isArray(value)) return say(path, 'a list');
        if (value.length > m.most) return say(path, `at most ${m.most}; ${value.length} were given`);
        return value.forEach((item, n) => walk(m.of, item, `${path}[${n}]`));
      case 'text':
        if (typeof value === 'object') return say(path, 'a single text');
        if (typeof value !== 'string') return;
        if (lettersOf(value) > m.most) return say(path, `at most ${m.most} characters; ${value.length} were given`);
        return isStorableText(value) ? undefined : say(path, NOT_TEXT);
      case 'scalar':
        if (typeof value === 'object') return say(path, 'a single value');
        return typeof value === 'string' && !isStorableText(value) ? say(path, NOT_TEXT) : undefined;
      case 'free': {
        const wrong = wrongFree(value);
        return wrong ? say(path, wrong) : undefined;
      }
    }
  };
  walk(measure, given, '');
  return faults;
}

/** Without recursion, so that depth itself can do no harm. */
function wrongFree(value: unknown): string | undefined {
  const waiting: { readonly value: unknown; readonly depth: number }[] = [{ value, depth: 0 }];
  let nodes = 0;
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    if (++nodes > MOST_NODES) return `at most ${MOST_NODES} values in all`;
    if (next.depth > MOST_DEPTH) return `nested at most ${MOST_DEPTH} deep`;
    if (typeof next.value === 'string' && next.value.length > MOST_LETTERS) return `texts of at most ${MOST_LETTERS} characters`;
    if (typeof next.value === 'string' && !isStorableText(next.value)) return NOT_TEXT;
    if (typeof next.value !== 'object' || next.value === null) continue;
    for (const [name, inner] of Object.entries(next.value)) {
      if (name === '__proto__') return 'no value of the name __proto__';
      if (!isStorableText(name)) return NOT_TEXT;
      if (waiting.length > MOST_NODES) return `at most ${MOST_NODES} values in all`;
      waiting.push({ value: inner, depth: next.depth + 1 });
    }
  }
  return undefined;
}

function join(path: string, name: string): string {
  return path ? `${path}.${name}` : name;
}

const MOST_PATH = 120;
function clipped(path: string): string {
  // As a name of a field of ours it would be its prototype.
  const safe = path.replaceAll('__proto__', '"__proto__"');
  return safe.length > MOST_PATH ? `${safe.slice(0, MOST_PATH)}…` : safe;
}
