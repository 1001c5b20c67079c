export * from './mail-kind';
export * from './delivery-report';
export * from './away-notice';
export * from './plain-id';
export * from './ticket-token';
export * from './thread-mail';
export * from './is-plain-thanks';
export * from './fill-placeholders';
