export * from './changes';
export * from './calendar-events';
export * from './event-words';
export * from './events-wire';
export * from './live-event';
export * from './story-wire';
export * from './who';
