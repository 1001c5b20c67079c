import { existsSync, readlinkSync } from 'node:fs';
import { setPriority } from 'node:os';

const THIS_THREAD = '/proc/thread-self';
/** About a tenth of the time of a thread that answers people, where both want it. */
const NICE = 10;

/** What a worker thread reads comes from outside: however hard it is, answers to people go first. Called in the thread. */
export function giveWay(): void {
  if (existsSync(THIS_THREAD)) setPriority(Number(readlinkSync(THIS_THREAD).split('/').at(-1)), NICE);
}
