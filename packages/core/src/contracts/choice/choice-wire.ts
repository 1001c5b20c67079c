import { count, defineRoutes, done, list, listOf, oneOf, record, text, whole, type Wire } from '../../ground';
import { REACHES } from './choose-contract';

/** Assets, sites, desks, kinds and contacts that one contract names. */
const MOST_MEANT = 500;

/** Something that a contract is meant for: an id, or the name of a kind. */
export const meantForFields = { reach: oneOf(REACHES), of: text(40) };
export const meantForSchema = record(meantForFields);
export type MeantForWire = Wire<typeof meantForSchema>;

export const meantForFormSchema = record({ meantFor: listOf(meantForSchema, MOST_MEANT) });

/** At how many percent used of an allowance account managers are told. */
const warnLevels = () => listOf(whole(1, 100), 10);
export const contractOrderSchema = record({ version: count(), order: list(oneOf(REACHES)), warnLevels: warnLevels() });
export type ContractOrderWire = Wire<typeof contractOrderSchema>;
export const contractOrderFormSchema = record({ order: listOf(oneOf(REACHES), REACHES.length), warnLevels: warnLevels() });

export const contractChoiceRoutes = defineRoutes({
  setMeantFor: {
    method: 'PUT',
    path: '/contracts/:contractId/meant-for',
    summary: 'Say for which assets, sites, desks, kinds and contacts of its client a contract is; open work finds its contract anew',
    permission: 'contracts.edit',
    versioned: true,
    body: meantForFormSchema,
    answer: done(),
  },
  getContractOrder: {
    method: 'GET',
    path: '/contract-settings',
    summary: 'In which order work finds its contract, and when somebody is told that an allowance is nearly used up',
    permission: 'contracts.read',
    answer: contractOrderSchema,
  },
  setContractOrder: {
    method: 'PUT',
    path: '/contract-settings',
    summary: 'Set in which order work finds its contract, which what is saved from now on follows, and when somebody is told of allowances',
    permission: 'setup.edit',
    versioned: true,
    body: contractOrderFormSchema,
    answer: record({ version: count() }),
  },
});
