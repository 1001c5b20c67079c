export * from './ticket';
export * from './move-status';
export * from './tickets-wire';
export * from './closes-at';
export * from './closing-checks';
export * from './ticket-facts';
export * from './sees-inside';
