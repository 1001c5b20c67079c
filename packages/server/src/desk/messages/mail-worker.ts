import workerpool from 'workerpool';
import { giveWay } from '../../app/give-way';
import { readMail, readPlainly } from './read-mail';

/** Says that it has begun, from when its time counts. */
function begun<T>(read: () => Promise<T>): Promise<T> {
  workerpool.workerEmit('begun');
  return read();
}

giveWay();
/** Reads mail away from the process that answers people: its form is whatever somebody outside wrote. */
workerpool.worker({
  whole: (raw: Uint8Array) => begun(() => readMail(Buffer.from(raw))),
  plainly: (raw: Uint8Array) => begun(() => readPlainly(Buffer.from(raw))),
});
