export * from './lane-day';
export * from './beat-strip';
export * from './dispatch-wire';
