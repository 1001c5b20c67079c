/** Where an absence stands: asked for, or decided. */
export const ABSENCE_STATES = ['requested', 'approved', 'refused', 'withdrawn'] as const;
export type AbsenceState = (typeof ABSENCE_STATES)[number];

/** What a manager decides. Who asked may withdraw it themselves. */
export const ABSENCE_DECISIONS = ['approve', 'refuse', 'take back'] as const;
export type AbsenceDecision = (typeof ABSENCE_DECISIONS)[number];
export type AbsenceMove = AbsenceDecision | 'withdraw';

const MOVES: Readonly<Record<AbsenceMove, { readonly from: readonly AbsenceState[]; readonly to: AbsenceState }>> = {
  approve: { from: ['requested'], to: 'approved' },
  refuse: { from: ['requested'], to: 'refused' },
  'take back': { from: ['approved', 'refused'], to: 'requested' },
  withdraw: { from: ['requested', 'approved'], to: 'withdrawn' },
};

/** The state after a move; undefined where the state does not take it. */
export function absenceAfter(state: AbsenceState, move: AbsenceMove): AbsenceState | undefined {
  return MOVES[move].from.includes(state) ? MOVES[move].to : undefined;
}
