import workerpool from 'workerpool';
import { readMail, readPlainly } from './read-mail';

/** Reads mail away from the process that answers people: its form is whatever somebody outside wrote. */
/** Says that it has begun, from when its time counts. */
function begun<T>(read: () => Promise<T>): Promise<T> {
  workerpool.workerEmit('begun');
  return read();
}

workerpool.worker({
  whole: (raw: Uint8Array) => begun(() => readMail(Buffer.from(raw))),
  plainly: (raw: Uint8Array) => begun(() => readPlainly(Buffer.from(raw))),
});
