export * from './outside-calendars-wire';
