export * from './absence';
export * from './count-days';
export * from './balance-of-year';
export * from './absences-wire';
