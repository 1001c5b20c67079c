// The domains and which of them may use which, in core, server and web alike. Read by the structure check; docs/architecture.md says why.
export const DOMAINS = {
  ground: [],
  house: ['ground'],
  goods: ['ground', 'house'],
  desk: ['ground', 'house', 'goods'],
  clients: ['ground', 'house', 'goods', 'desk'],
  contracts: ['ground', 'house', 'goods', 'desk', 'clients'],
  scheduling: ['ground', 'house', 'goods', 'desk', 'clients'],
  time: ['ground', 'house', 'goods', 'desk', 'clients', 'contracts', 'scheduling'],
  billing: ['ground', 'house', 'goods', 'desk', 'clients', 'contracts', 'scheduling', 'time'],
  insight: ['ground', 'house', 'goods', 'desk', 'clients', 'contracts', 'scheduling', 'time', 'billing'],
};
