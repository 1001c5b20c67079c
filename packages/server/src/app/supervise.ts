import { fork, type ChildProcess } from 'node:child_process';

/** How often a process says that it is alive, in milliseconds. */
export const ALIVE_MS = 2000;

export interface Supervised {
  /** Ends the process and begins no other. @returns its exit code, 1 where a signal ended it */
  stop(signal: NodeJS.Signals): Promise<number>;
}

export interface Watch {
  /** The program to keep running. */
  readonly file: string;
  /** Milliseconds without a word after which it hangs, and is ended. */
  readonly silentMs: number;
  /** The pause before the next beginning, in milliseconds; it doubles with each that ends early. */
  readonly pauseMs: number;
  readonly mostPauseMs: number;
  /** Whoever stays up for so long has begun well. */
  readonly settledMs: number;
  /** What the process said when it was ready, each time it is. */
  onReady(message: unknown): void;
  /** It ended before it was ever ready: its settings are wrong, and beginning anew would not help. */
  onNeverReady(code: number): void;
  say(words: string): void;
}

/** Keeps a program running: begins it again where it ended or hangs, with growing pauses where it keeps ending. */
export function supervise(watch: Watch): Supervised {
  let child: ChildProcess;
  let everReady = false;
  let stopping = false;
  let pause = watch.pauseMs;
  let waiting: NodeJS.Timeout | undefined;
  let ended: Promise<number>;

  const begin = () => {
    const own = (child = fork(watch.file, [], { stdio: ['ignore', 'inherit', 'inherit', 'ipc'] }));
    const began = Date.now();
    let heard = Date.now();
    let ready = false;
    own.on('message', (message) => {
      heard = Date.now();
      if (ready) return;
      ready = everReady = true;
      watch.onReady(message);
    });
    const listening = setInterval(() => {
      if (!ready || Date.now() - heard < watch.silentMs) return;
      watch.say(`the server has said nothing for ${watch.silentMs / 1000} seconds; it is ended and begun anew`);
      own.kill('SIGKILL');
    }, ALIVE_MS);
    ended = new Promise((done) =>
      own.once('exit', (code, signal) => {
        clearInterval(listening);
        done(code ?? 1);
        if (stopping) return;
        if (!everReady) return watch.onNeverReady(code ?? 1);
        pause = Date.now() - began > watch.settledMs ? watch.pauseMs : Math.min(pause * 2, watch.mostPauseMs);
        watch.say(`the server ended (${signal ?? `code ${code}`}); it begins anew in ${pause} ms`);
        waiting = setTimeout(begin, pause);
      }),
    );
  };
  begin();
  return {
    stop: async (signal) => {
      stopping = true;
      clearTimeout(waiting);
      if (child.exitCode !== null || child.signalCode !== null) return 0;
      child.kill(signal);
      return ended;
    },
  };
}
