export * from './absences';
export * from './approval';
export * from './expenses';
export * from './internal-work';
export * from './proposed-entries';
export * from './team-week';
export * from './time-entries';
export * from './week-sheet';
