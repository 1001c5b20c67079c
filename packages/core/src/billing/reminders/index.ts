export * from './next-reminder';
export * from './fill-reminder';
export * from './reminders-wire';
