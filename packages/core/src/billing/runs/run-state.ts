/** How far a run is. Ready: looked at, and something of it is not issued. Done: nothing is left of it. */
export const RUN_STATES = ['preparing', 'ready', 'issuing', 'done'] as const;
export type RunState = (typeof RUN_STATES)[number];

/**
 * How far an invoice of a run is. Changed: it comes to something else than was seen when it was to be issued, and has to be
 * looked at again. Held: it waits for the next run.
 */
export const RUN_INVOICE_STATES = ['proposed', 'changed', 'held', 'asked', 'issued', 'failed'] as const;
export type RunInvoiceState = (typeof RUN_INVOICE_STATES)[number];

/** What a person still has to decide on. */
export const LEFT_TO_ISSUE: readonly RunInvoiceState[] = ['proposed', 'changed', 'failed'];
