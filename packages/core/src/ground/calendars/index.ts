export * from './calendar';
export * from './working-intervals';
export * from './working-seconds';
export * from './add-working-seconds';
export * from './calendars-wire';
export * from './time-band';
