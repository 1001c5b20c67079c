import type { Routes } from '@angular/router';
import { signedIn } from './signed-in';

/** Every page is loaded when it is opened. */
export const routes: Routes = [
  { path: 'enter', title: 'Enter · Drumline', loadComponent: () => import('../house/access/enter.page').then((m) => m.EnterPage) },
  {
    path: 'password',
    title: 'New password · Drumline',
    loadComponent: () => import('../house/access/password.page').then((m) => m.PasswordPage),
  },
  {
    path: '',
    canActivate: [signedIn],
    loadComponent: () => import('./frame').then((m) => m.Frame),
    children: [
      { path: '', pathMatch: 'full', loadComponent: () => import('./home').then((m) => m.Home) },
      { path: 'intake', title: 'Intake · Drumline', loadComponent: () => import('../desk/intake/intake.page').then((m) => m.IntakePage) },
      {
        path: 'tickets',
        title: 'Tickets · Drumline',
        loadComponent: () => import('../desk/tickets/ticket-list.page').then((m) => m.TicketListPage),
      },
      {
        path: 'tickets/:ticketId',
        title: 'Ticket · Drumline',
        loadComponent: () => import('../desk/tickets/ticket.page').then((m) => m.TicketPage),
      },
      {
        path: 'setup/mail',
        title: 'Mail · Drumline',
        loadComponent: () => import('../desk/mail-rules/mail.page').then((m) => m.MailPage),
      },
      {
        path: 'account',
        title: 'Your account · Drumline',
        loadComponent: () => import('../house/access/account.page').then((m) => m.AccountPage),
      },
      {
        path: 'dispatch',
        title: 'Dispatch · Drumline',
        loadComponent: () => import('../scheduling/dispatch/dispatch.page').then((m) => m.DispatchPage),
      },
      {
        path: 'dispatch/ways',
        title: 'Ways · Drumline',
        loadComponent: () => import('../scheduling/travel/travel.page').then((m) => m.TravelPage),
      },
      {
        path: 'dispatch/plan-and-fact',
        title: 'Plan and fact · Drumline',
        loadComponent: () => import('../insight/plan-and-fact/plan-and-fact.page').then((m) => m.PlanAndFactPage),
      },
      {
        path: 'my-time',
        title: 'My time · Drumline',
        loadComponent: () => import('../time/time-entries/my-time.page').then((m) => m.MyTimePage),
      },
      {
        path: 'my-time/sheet',
        title: 'Week sheet · Drumline',
        loadComponent: () => import('../time/week-sheet/week-sheet.page').then((m) => m.WeekSheetPage),
      },
      {
        path: 'my-time/team',
        title: 'Time of the team · Drumline',
        loadComponent: () => import('../time/team-week/team-week.page').then((m) => m.TeamWeekPage),
      },
      {
        path: 'my-time/team/:personId',
        title: 'Approval · Drumline',
        loadComponent: () => import('../time/approval/person-week.page').then((m) => m.PersonWeekPage),
      },
      {
        path: 'my-time/expenses',
        title: 'Expenses · Drumline',
        loadComponent: () => import('../time/expenses/expenses.page').then((m) => m.ExpensesPage),
      },
      {
        path: 'reimbursements',
        title: 'Reimbursements · Drumline',
        loadComponent: () => import('../time/expenses/reimbursements.page').then((m) => m.ReimbursementsPage),
      },
      {
        path: 'my-time/absences',
        title: 'Absences · Drumline',
        loadComponent: () => import('../time/absences/absences.page').then((m) => m.AbsencesPage),
      },
      {
        path: 'my-time/hours',
        title: 'Hours · Drumline',
        loadComponent: () => import('../insight/time-report/time-report.page').then((m) => m.TimeReportPage),
      },
      {
        path: 'my-time/week',
        title: 'My week · Drumline',
        loadComponent: () => import('../scheduling/dispatch/my-week.page').then((m) => m.MyWeekPage),
      },
      {
        path: 'clients',
        title: 'Clients · Drumline',
        loadComponent: () => import('../clients/clients/client-list.page').then((m) => m.ClientListPage),
      },
      {
        path: 'clients/:clientId',
        title: 'Client · Drumline',
        loadComponent: () => import('../clients/clients/client.page').then((m) => m.ClientPage),
      },
      {
        path: 'clients/:clientId/would-cost',
        title: 'What would it cost? · Drumline',
        loadComponent: () => import('../billing/would-cost/would-cost.page').then((m) => m.WouldCostPage),
      },
      {
        path: 'clients/:clientId/seats',
        title: 'Seats · Drumline',
        loadComponent: () => import('../contracts/seats/seats.page').then((m) => m.SeatsPage),
      },
      {
        path: 'clients/:clientId/usage',
        title: 'Usage report · Drumline',
        loadComponent: () => import('../insight/usage/usage.page').then((m) => m.UsagePage),
      },
      {
        path: 'contracts',
        title: 'Contracts · Drumline',
        loadComponent: () => import('../contracts/contracts/contract-list.page').then((m) => m.ContractListPage),
      },
      {
        path: 'contracts/:contractId',
        title: 'Contract · Drumline',
        loadComponent: () => import('../contracts/contracts/contract.page').then((m) => m.ContractPage),
      },
      {
        path: 'assets',
        title: 'Assets · Drumline',
        loadComponent: () => import('../clients/assets/asset-list.page').then((m) => m.AssetListPage),
      },
      {
        path: 'assets/:assetId',
        title: 'Asset · Drumline',
        loadComponent: () => import('../clients/assets/asset.page').then((m) => m.AssetPage),
      },
      {
        path: 'catalogue',
        title: 'Catalogue · Drumline',
        loadComponent: () => import('../goods/catalogue/catalogue-list.page').then((m) => m.CatalogueListPage),
      },
      {
        path: 'catalogue/:itemId',
        title: 'Catalogue item · Drumline',
        loadComponent: () => import('../goods/catalogue/catalogue-item.page').then((m) => m.CatalogueItemPage),
      },
      {
        path: 'charges',
        title: 'Charges · Drumline',
        loadComponent: () => import('../billing/charges/charges.page').then((m) => m.ChargesPage),
      },
      {
        path: 'billing',
        title: 'Billing · Drumline',
        loadComponent: () => import('../billing/invoices/billing.page').then((m) => m.BillingPage),
      },
      {
        path: 'billing/runs/:runId',
        title: 'Billing run · Drumline',
        loadComponent: () => import('../billing/runs/run.page').then((m) => m.RunPage),
      },
      {
        path: 'billing/:invoiceId',
        title: 'Invoice · Drumline',
        loadComponent: () => import('../billing/invoices/invoice.page').then((m) => m.InvoicePage),
      },
      {
        path: 'setup/promises',
        title: 'Promises · Drumline',
        loadComponent: () => import('../desk/clocks/promises.page').then((m) => m.PromisesPage),
      },
      {
        path: 'setup/templates',
        title: 'Templates and routine work · Drumline',
        loadComponent: () => import('../desk/templates/templates.page').then((m) => m.TemplatesPage),
      },
      {
        path: 'setup/people',
        title: "People's time · Drumline",
        loadComponent: () => import('../house/people/people.page').then((m) => m.PeoplePage),
      },
      {
        path: 'setup/time',
        title: 'What time is asked for · Drumline',
        loadComponent: () => import('../time/internal-work/time-rules.page').then((m) => m.TimeRulesPage),
      },
      {
        path: 'setup/calendars',
        title: 'Calendars · Drumline',
        loadComponent: () => import('../ground/calendars/calendars.page').then((m) => m.CalendarsPage),
      },
      {
        path: 'setup/tickets',
        title: 'Own fields and rules of tickets · Drumline',
        loadComponent: () => import('../desk/own-conditions/ticket-rules.page').then((m) => m.TicketRulesPage),
      },
      {
        path: 'setup/contracts',
        loadComponent: () => import('../contracts/choice/contract-order.page').then((m) => m.ContractOrderPage),
        title: 'Contracts · Drumline',
      },
      {
        path: 'setup/flat-fees',
        title: 'Flat-fee jobs · Drumline',
        loadComponent: () => import('../desk/flat-fees/fees.page').then((m) => m.FeesPage),
      },
      {
        path: 'setup/access',
        title: 'Divisions and access · Drumline',
        loadComponent: () => import('../house/divisions/access.page').then((m) => m.AccessPage),
      },
      {
        path: 'setup/on-call',
        title: 'On call · Drumline',
        loadComponent: () => import('../desk/escalation/on-call.page').then((m) => m.OnCallPage),
      },
      {
        path: 'setup/routing',
        title: 'Desks and categories · Drumline',
        loadComponent: () => import('../desk/intake/routing.page').then((m) => m.RoutingPage),
      },
      { path: 'setup', title: 'Setup · Drumline', loadComponent: () => import('./setup.page').then((m) => m.SetupPage) },
      { path: '**', title: 'Not here · Drumline', loadComponent: () => import('./not-here').then((m) => m.NotHere) },
    ],
  },
];
