/** What a value of a fact looks like; a reference is an id that the screen offers by name. */
export type FactShape = 'words' | 'number' | 'yes/no' | 'choice' | 'date' | 'desk' | 'category' | 'client' | 'own kind';

export interface Fact {
  readonly label: string;
  readonly shape: FactShape;
  readonly values?: readonly string[];
}

export type FactValue = string | number | boolean | null;

type Values = Readonly<Record<string, FactValue>>;

/** The facts of one record, under its kind. Own fields stand under their ids. Minutes are whole; dates are as 2026-11-24. */
export interface ConditionFacts {
  readonly [kind: string]: Values;
  readonly field: Values;
}
