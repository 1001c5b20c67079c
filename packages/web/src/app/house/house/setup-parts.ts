import type { Permission } from '@core/ground';

interface Part {
  readonly heading: string;
  readonly link: string;
  readonly says: string;
  readonly needs?: Permission;
  /** What waits there. */
  readonly count?: 'aside';
}
/** Pages of Setup, each under its heading. */
export const SETUP_PARTS: readonly Part[] = [
  {
    heading: 'Divisions and access',
    link: '/setup/access',
    needs: 'setup.read',
    says: 'See and change who may do what in which division, and the brand, mail address and labour tax of each',
  },
  {
    heading: 'On call and third parties',
    link: '/setup/on-call',
    needs: 'setup.read',
    says: 'See and change who is on call, when they are rung, and who is no client',
  },
  {
    heading: 'Own fields and rules of tickets',
    link: '/setup/tickets',
    says: 'See and change own fields of tickets, assets, clients and contacts; conditions before moves, kinds, statuses and hold reasons',
  },
  {
    heading: 'Mail',
    link: '/setup/mail',
    needs: 'setup.read',
    says: 'See what was put aside, and see and change the rules for mail',
    count: 'aside',
  },
  { heading: "People's time", link: '/setup/people', needs: 'setup.read', says: 'See and change working hours, skills and who is away' },
  {
    heading: 'Time, expenses and absence',
    link: '/setup/time',
    needs: 'setup.read',
    says: 'See and change what asks for its time, internal work, categories of expenses, distances and kinds of absence',
  },
  {
    heading: 'Templates and routine work',
    link: '/setup/templates',
    says: 'See and change templates, checklists, routine work and request forms',
  },
  { heading: 'Desks and categories', link: '/setup/routing', says: 'See and change desks, their lines and the categories of tickets' },
  {
    heading: 'Contracts',
    link: '/setup/contracts',
    says: 'See and change in which order work finds its contract, and when somebody is told that an allowance is nearly used up',
  },
  { heading: 'Flat-fee jobs', link: '/setup/flat-fees', says: 'See and change the jobs that are done at a flat fee' },
];
