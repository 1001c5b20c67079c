/**
 * Who did something. A client's contact who uses a page without a sign-in is told under their own name; `id` is null
 * where a name is all that is known of them.
 */
export type Who =
  | { readonly is: 'person'; readonly id: string; readonly name: string }
  | { readonly is: 'contact'; readonly id: string | null; readonly name: string }
  | { readonly is: 'job'; readonly name: string }
  | { readonly is: 'rule'; readonly id: string; readonly name: string }
  | { readonly is: 'system'; readonly name: string }
  | { readonly is: 'nobody' };

export const WHO_KINDS = ['person', 'contact', 'job', 'rule', 'system', 'nobody'] as const satisfies readonly Who['is'][];

/** The way in: a screen of ours, a script with a key, a mail, a page for clients without a sign-in, a job, another system's answer. */
export const WAYS_IN = ['web', 'api', 'mail', 'page', 'job', 'system'] as const;
export type WayIn = (typeof WAYS_IN)[number];

export function nameOf(who: Who): string {
  return who.is === 'nobody' ? 'nobody' : who.name;
}
