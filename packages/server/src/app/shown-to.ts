import { holds, isRefusal, type Outcome, type Route } from '@core/ground';
import type { Actor } from './actor';

/** An answer without the fields that its reader may not see. */
export function shownTo(route: Route, { role }: Actor, outcome: Outcome<unknown>): Outcome<unknown> {
  const hidden = (route.hides ?? []).filter(({ needs }) => !(role && holds(role, needs)));
  return isRefusal(outcome) ? outcome : hidden.reduce<unknown>((shown, { path }) => without(shown, path.split('.')), outcome);
}

function without(value: unknown, [name, ...rest]: readonly string[]): unknown {
  if (typeof value !== 'object' || value === null || name === undefined) return value;
  if (name === '*') return (value as unknown[]).map((each) => without(each, rest));
  const { [name]: inner, ...others } = value as Record<string, unknown>;
  return rest.length && inner !== undefined ? { ...others, [name]: without(inner, rest) } : others;
}
