import workerpool from 'workerpool';
import { giveWay } from '../../app/give-way';
import { type BankFileHow, parseBankFile } from './parse-bank-file';

giveWay();
/** Reads files of banks away from the process that answers people. */
workerpool.worker({ read: (bytes: Uint8Array, how: BankFileHow) => parseBankFile(bytes, how) });
