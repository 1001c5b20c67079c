export * from './mail-kind';
export * from './ticket-token';
export * from './thread-mail';
export * from './is-plain-thanks';
export * from './fill-placeholders';
