import type { BillingTerms, BillingRhythm, OwnTerms } from './billing-terms';
import type { ClientTermsForm, HouseTermsForm } from './billing-terms-wire';

type Flat = Omit<ClientTermsForm, 'per' | 'leadDays'>;

/** A rhythm with just the days that its frequency is on. */
function rhythmOf({ every, weekday, day, month }: Flat & { readonly every: NonNullable<Flat['every']> }): BillingRhythm {
  const onDay = every !== 'run' && every !== 'week';
  return {
    every,
    weekday: every === 'week' ? weekday : null,
    day: onDay ? day : null,
    month: every === 'quarter' || every === 'year' ? month : null,
  };
}

export function houseTermsOf(form: HouseTermsForm): BillingTerms {
  return { rhythm: rhythmOf(form), per: form.per, leadDays: form.leadDays };
}

export function ownTermsOf({ every, ...form }: ClientTermsForm): OwnTerms {
  return { rhythm: every === null ? null : rhythmOf({ ...form, every }), per: form.per, leadDays: form.leadDays };
}

/** Terms as their form shows them. */
export function formOfTerms({ rhythm, per, leadDays }: BillingTerms): HouseTermsForm {
  return { ...rhythm, per, leadDays };
}

export function formOfOwnTerms({ rhythm, per, leadDays }: OwnTerms): ClientTermsForm {
  return { ...(rhythm ?? { every: null, weekday: null, day: null, month: null }), per, leadDays };
}
