export * from './desk-setup-events';
export * from './message-events';
export * from './talk-events';
export * from './ticket-events';
