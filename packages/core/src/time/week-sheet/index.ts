export * from './settle-cell';
export * from './plan-cell';
export * from './read-grid';
export * from './week-sheet-wire';
