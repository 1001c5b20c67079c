export * from './ticket';
export * from './move-status';
export * from './tickets-wire';
