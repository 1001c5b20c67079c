/** The kinds of record that can have fields of the house's own. */
export const FIELD_RECORDS = ['ticket', 'asset', 'client', 'contact'] as const;
export type FieldRecord = (typeof FIELD_RECORDS)[number];

/** When a field that is required must be filled. */
export const FIELD_MOMENTS = ['opening', 'moving', 'resolving', 'saving'] as const;
export type FieldMoment = (typeof FIELD_MOMENTS)[number];

/** The moments that a record of a kind has. */
export const MOMENTS_OF: Readonly<Record<FieldRecord, readonly FieldMoment[]>> = {
  ticket: ['opening', 'moving', 'resolving'],
  asset: ['saving'],
  client: ['saving'],
  contact: ['saving'],
};
