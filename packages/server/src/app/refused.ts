/** Ends a transaction whose command was refused; what was refused is carried out of it. */
export class Refused extends Error {
  constructor(readonly outcome: unknown) {
    super('refused');
  }
}
