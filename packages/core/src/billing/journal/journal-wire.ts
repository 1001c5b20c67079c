import { date, defineRoutes, record, text } from '../../ground';

const days = () => record({ from: date(), to: date() });

export const journalRoutes = defineRoutes({
  getLedgerJournal: {
    method: 'GET',
    path: '/journal/ledger',
    summary: 'What was issued and received from a day to a day as plain text that hledger and ledger read',
    permission: 'invoices.read',
    query: days(),
    file: 'text/plain',
    answer: text(),
  },
  getBeancountJournal: {
    method: 'GET',
    path: '/journal/beancount',
    summary: 'What was issued and received from a day to a day as plain text that beancount reads',
    permission: 'invoices.read',
    query: days(),
    file: 'text/plain',
    answer: text(),
  },
  getAccountSums: {
    method: 'GET',
    path: '/journal/accounts',
    summary: 'What each account was debited and credited by month, as CSV',
    permission: 'invoices.read',
    query: days(),
    file: 'text/csv',
    answer: text(),
  },
});
