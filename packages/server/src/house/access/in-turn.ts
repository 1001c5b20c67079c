/** More wait than can be served in a reasonable time; whoever comes now is asked to try again. */
export class TooManyWait extends Error {
  constructor() {
    super('too many wait for the same');
  }
}

/** Lets so many run at once and the rest wait, up to a number. @throws TooManyWait beyond it */
export function inTurn({ atOnce, mostWaiting }: { readonly atOnce: number; readonly mostWaiting: number }) {
  let running = 0;
  const waiting: (() => void)[] = [];
  return async <T>(run: () => Promise<T>): Promise<T> => {
    if (running >= atOnce) {
      if (waiting.length >= mostWaiting) throw new TooManyWait();
      await new Promise<void>((go) => waiting.push(go));
    } else running++;
    try {
      return await run();
    } finally {
      const next = waiting.shift();
      if (next) next();
      else running--;
    }
  };
}
