export * from './settle-cell';
export * from './read-grid';
export * from './week-sheet-wire';
