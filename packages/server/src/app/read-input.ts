import type { Request } from 'express';
import { ValidationError, type AnySchema } from 'yup';
import { isId, isStorableText, type Measure, measureInput, measureOf, MOST_FAULTS, type Outcome, refuse, type Route } from '@core/ground';

export interface Input {
  readonly query: unknown;
  readonly body: unknown;
  readonly version: number;
}

export interface Measures {
  readonly query: Measure;
  readonly body: Measure;
}

const EMPTY: Measure = { is: 'record', fields: {} };

/** @throws Error where a schema lets in a list or a text of any size */
export function measuresOf(route: Route): Measures {
  return {
    query: route.query ? measureOf(route.query, `${route.name}: query`) : EMPTY,
    body: route.body ? measureOf(route.body, `${route.name}: body`) : EMPTY,
  };
}

const MOST_PARAM = 200;

export interface Asked {
  readonly req: Request;
  /** Of the path, numbers read as ids. */
  readonly params: Readonly<Record<string, string>>;
  readonly measures: Measures;
}

/** Sizes and names first; only what fits is checked against the schemas. */
export function readInput(route: Route, { req, params, measures }: Asked): Outcome<Input> {
  const body = Buffer.isBuffer(req.body) ? undefined : (req.body as unknown);
  const fields: Record<string, string> = {};
  const query = readPart({ schema: route.query, measure: measures.query, given: req.query }, fields);
  const checkedBody = readPart({ schema: route.body, measure: measures.body, given: body }, fields);
  for (const [name, value] of Object.entries(params)) {
    const text = String(value);
    if (name.endsWith('Id') && name !== 'jobId' ? !isId(text) : text.length > MOST_PARAM || !isStorableText(text))
      fields[name] = name.endsWith('Id') ? 'an id such as 3f6c…' : `text of at most ${MOST_PARAM} characters`;
  }
  if (Object.keys(fields).length)
    return refuse(
      'invalid',
      `Not right: ${Object.entries(fields)
        .slice(0, MOST_FAULTS)
        .map(([path, what]) => `${path} (${what})`)
        .join('; ')}.`,
      fields,
    );
  return { query, body: checkedBody, version: Number((req.get('if-match') ?? '').replaceAll('"', '')) };
}

interface Part {
  readonly schema: AnySchema | undefined;
  readonly measure: Measure;
  readonly given: unknown;
}

const topOf = (path: string) => path.split(/[.[]/)[0]!;

/** What does not fit its measure is named and left out; the rest is checked all the same, so that all is named at once. */
function readPart({ schema, measure, given }: Part, fields: Record<string, string>): unknown {
  const sized = measureInput(measure, given);
  Object.assign(fields, sized);
  if (!schema || 'body' in sized) return undefined;
  const unfit = new Set(Object.keys(sized).map(topOf));
  const known = measure.is === 'record' ? measure.fields : {};
  const fitting = unfit.size
    ? Object.fromEntries(Object.entries(given ?? {}).filter(([name]) => Object.hasOwn(known, name) && !unfit.has(name)))
    : (given ?? {});
  const checked = check(schema, fitting);
  if ('value' in checked) return checked.value;
  for (const [path, what] of Object.entries(checked.faults)) if (!unfit.has(topOf(path))) fields[path] = what;
  return undefined;
}

/** Stops at the first fault; only then, and only for as much as people mend at once, all faults are looked for. */
function check(schema: AnySchema, given: unknown): { value: unknown } | { faults: Record<string, string> } {
  try {
    return { value: schema.validateSync(given, { abortEarly: true, stripUnknown: true }) as unknown };
  } catch (fault) {
    if (!(fault instanceof ValidationError)) throw fault;
    const faults: Record<string, string> = {};
    const all = faultsOf(schema, shortened(given));
    for (const e of (all.length ? all : [fault]).slice(0, MOST_FAULTS)) faults[e.path || 'body'] ??= e.errors[0] ?? 'not right';
    return { faults };
  }
}

function faultsOf(schema: AnySchema, given: unknown): ValidationError[] {
  try {
    schema.validateSync(given, { abortEarly: false, stripUnknown: true });
    return [];
  } catch (fault) {
    if (!(fault instanceof ValidationError)) throw fault;
    return fault.inner.length ? fault.inner : [fault];
  }
}

/** The same with lists cut to as many items as there may be faults. */
function shortened(given: unknown): unknown {
  if (Array.isArray(given)) return given.slice(0, MOST_FAULTS).map(shortened);
  if (typeof given !== 'object' || given === null) return given;
  return Object.fromEntries(Object.entries(given).map(([name, value]) => [name, shortened(value)]));
}
