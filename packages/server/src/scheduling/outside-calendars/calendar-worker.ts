import workerpool from 'workerpool';
import { readAppointments, type Reading } from '@core/ground';
import { giveWay } from '../../app/give-way';

giveWay();
/** Reads a calendar away from the process that answers people: its rules are whatever somebody outside wrote. */
workerpool.worker({ read: (text: string, reading: Reading) => readAppointments(text, reading) });
