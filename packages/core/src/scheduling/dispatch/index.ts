export * from './lane-day';
export * from './beat-strip';
export * from './slot-trouble';
export * from './dispatch-wire';
export * from './actual-spans';
export * from './repeat-days';
