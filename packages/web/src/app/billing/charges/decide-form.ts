import { chargeRoutes, decideSchema, type ChargeWire } from '@core/billing';
import { firstOfNextMonth, type LocalDate } from '@core/ground';
import type { Api } from '../../shell/api';
import type { Line, RecordForm } from '../../ui/record-form';

/** What is decided with words: why it is waived, what it is adjusted to, until when it is held. */
export type Worded = 'waive' | 'adjust' | 'hold';

const why = (label: string): Line => ({ name: 'reason', label, wide: true });
const LINES: Readonly<Record<Exclude<Worded, 'adjust'>, readonly Line[]>> = {
  waive: [why('Why is it waived?')],
  hold: [{ name: 'until', label: 'Held until', kind: 'date' }, why('Why is it held?')],
};
export const DONE: Readonly<Record<Worded, string>> = { waive: 'Waived', adjust: 'Adjusted', hold: 'Held' };
const DOES: Readonly<Record<Worded, string>> = { waive: 'Waive it', adjust: 'Adjust it', hold: 'Hold it' };

export function linesOf(decision: Worded, { unit }: ChargeWire): readonly Line[] {
  if (decision !== 'adjust') return LINES[decision];
  return [
    { name: 'quantity', label: unit === 'MIN' ? 'Minutes' : 'How many', kind: 'number' },
    { name: 'unitPrice', label: unit === 'MIN' ? 'Price an hour' : 'Price each', kind: 'money' },
    { name: 'description', label: 'Text on the document', wide: true },
    why('Why is it adjusted?'),
  ];
}

/** The form that decides on a charge. What is left as it is keeps its exact value, which may have more places than a person types. */
export function decideForm(
  api: Api,
  asked: { readonly charge: ChargeWire; readonly decision: Worded; readonly today: LocalDate },
): RecordForm {
  const { charge, decision } = asked;
  const adjusted = { quantity: charge.quantity, unitPrice: charge.unitPrice, description: charge.description };
  const form: RecordForm<typeof decideSchema> = {
    schema: decideSchema,
    initial: {
      ...{ quantity: null, unitPrice: null, description: null, until: null, reason: null, decision },
      ...(decision === 'adjust' ? adjusted : {}),
      ...(decision === 'hold' ? { until: firstOfNextMonth(asked.today) } : {}),
    },
    draft: `charge.${charge.id}.${decision}`,
    does: DOES[decision],
    version: charge.version,
    save: (body, seen) => {
      const changed = <K extends keyof typeof adjusted>(name: K) => (body[name] === adjusted[name] ? null : body[name]);
      return api.call(chargeRoutes.decideCharge, {
        params: { chargeId: charge.id },
        version: seen ?? charge.version,
        body: {
          ...body,
          ...(decision === 'adjust'
            ? { quantity: changed('quantity'), unitPrice: changed('unitPrice'), description: changed('description') }
            : {}),
        },
      });
    },
    stored: () => api.call(chargeRoutes.getCharge, { params: { chargeId: charge.id } }),
  };
  return form as unknown as RecordForm;
}
