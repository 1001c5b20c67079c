export * from './score-slot';
export * from './find-slots';
export * from './choose-openings';
export * from './fitting-wire';
