import { bindAccess } from '../house/access/access-routes';
import { bindDivisions } from '../house/divisions/divisions-routes';
import { bindActionTime } from '../desk/action-time/action-time-routes';
import { bindInternalWork } from '../time/internal-work/internal-work-routes';
import { bindApproval } from '../time/approval/approval-routes';
import { bindAbsences } from '../time/absences/absences-routes';
import { bindTimeReport } from '../insight/time-report/time-report-routes';
import { bindAssets } from '../clients/assets/assets-routes';
import { bindCalendars } from '../ground/calendars/calendars-routes';
import { bindCanned } from '../desk/canned/canned-routes';
import { bindWouldCost } from '../billing/would-cost/would-cost-routes';
import { bindRecurringCharges } from '../billing/recurring-charges/recurring-charges-routes';
import { bindBooks } from '../billing/books/books-routes';
import { bindAgeing } from '../billing/ageing/ageing-routes';
import { bindBank } from '../billing/bank/bank-routes';
import { bindJournal } from '../billing/journal/journal-routes';
import { bindApprovalRules } from '../billing/approval-rules/approval-rules-routes';
import { bindNeverCharged } from '../billing/never-charged/never-charged-routes';
import { bindPriceRules } from '../goods/price-rules/price-rules-routes';
import { bindBillingTerms } from '../billing/billing-terms/billing-terms-routes';
import { bindOpenTab } from '../billing/open-tab/open-tab-routes';
import { bindChargeQuestions } from '../billing/charges/charge-questions-routes';
import { bindReminders } from '../billing/reminders/reminders-routes';
import { bindRuns } from '../billing/runs/runs-routes';
import { bindContractChoice } from '../contracts/choice/choice-routes';
import { bindContracts } from '../contracts/contracts/contracts-routes';
import { bindReadings } from '../contracts/readings/readings-routes';
import { bindContractPrices } from '../contracts/prices/prices-routes';
import { bindOwnRates } from '../contracts/own-rates/own-rates-routes';
import { bindSeats } from '../contracts/seats/seats-routes';
import { bindCatalogue } from '../goods/catalogue/catalogue-routes';
import { bindCharges } from '../billing/charges/charges-routes';
import { bindClients } from '../clients/clients/clients-routes';
import { bindPromises } from '../desk/clocks/promises-routes';
import { bindDispatch } from '../scheduling/dispatch/dispatch-routes';
import { bindFitting } from '../scheduling/fitting/fitting-routes';
import { bindPlanning } from '../scheduling/planning/planning-routes';
import { bindOpenings } from '../scheduling/openings/openings-routes';
import { bindMailRules } from '../desk/mail-rules/mail-rules-routes';
import { bindOutsideCalendars } from '../scheduling/outside-calendars/outside-calendars-routes';
import { bindPlanAndFact } from '../insight/plan-and-fact/plan-and-fact-routes';
import { bindClosings } from '../time/closings/closings-routes';
import { bindContractTime, bindTimeContract } from '../time/contract-time/contract-time-routes';
import { bindProposedEntries } from '../time/proposed-entries/proposed-entries-routes';
import { bindWeekSheet } from '../time/week-sheet/week-sheet-routes';
import { bindTeamWeek } from '../time/team-week/team-week-routes';
import { bindExpenses } from '../time/expenses/expenses-routes';
import { bindTravel } from '../scheduling/travel/travel-routes';
import { bindEscalation } from '../desk/escalation/escalation-routes';
import { bindFollowers } from '../desk/followers/followers-routes';
import { bindFeeds } from '../scheduling/feeds/feeds-routes';
import { bindFlatFees } from '../desk/flat-fees/flat-fees-routes';
import { bindCostRates } from '../house/cost-rates/cost-rates-routes';
import { bindHouse } from '../house/house/house-routes';
import { bindMessages } from '../desk/messages/message-routes';
import { bindIntake } from '../desk/intake/intake-routes';
import { bindInvoices } from '../billing/invoices/invoices-routes';
import { bindPayments } from '../billing/payments/payments-routes';
import { bindJobs } from '../house/jobs/jobs-routes';
import { bindDeskSettings } from '../desk/settings/settings-routes';
import { bindKinds } from '../desk/kinds/kinds-routes';
import { bindNotices } from '../house/notices/notices-routes';
import { bindOwnConditions } from '../desk/own-conditions/own-conditions-routes';
import { bindOwnFields } from '../desk/own-fields/own-fields-routes';
import { bindPeople } from '../house/people/people-routes';
import { bindPresence } from '../desk/presence/presence-routes';
import { bindRelations } from '../desk/relations/relations-routes';
import { bindRequestForms } from '../desk/request-forms/request-forms-routes';
import { bindRoutines } from '../desk/routines/routines-routes';
import { bindSearch } from '../house/search/search-routes';
import { bindStatuses } from '../desk/statuses/statuses-routes';
import { bindTemplates } from '../desk/templates/templates-routes';
import { bindTickets } from '../desk/tickets/ticket-routes';
import { bindTimeEntries } from '../time/time-entries/time-entries-routes';
import { bindEvents } from '../ground/events/events-routes';
import { bindUploads } from '../ground/uploads/uploads-routes';
import { bindUsage } from '../insight/usage/usage-routes';
import { bindUmbrellas } from '../desk/umbrellas/umbrellas-routes';
import { bindViews } from '../house/views/views-routes';

/** All routes of the API, each domain's bound to what does them. */
export const BOUND = [
  bindAccess,
  bindDivisions,
  bindHouse,
  bindTickets,
  bindMessages,
  bindDispatch,
  bindTimeEntries,
  bindApproval,
  bindActionTime,
  bindInternalWork,
  bindExpenses,
  bindAbsences,
  bindTimeReport,
  bindCharges,
  bindInvoices,
  bindPayments,
  bindClients,
  bindAssets,
  bindContractChoice,
  bindContracts,
  bindOwnRates,
  bindContractPrices,
  bindReadings,
  bindSeats,
  bindRecurringCharges,
  bindAgeing,
  bindBank,
  bindJournal,
  bindApprovalRules,
  bindNeverCharged,
  bindChargeQuestions,
  bindBillingTerms,
  bindOpenTab,
  bindPriceRules,
  bindReminders,
  bindRuns,
  bindBooks,
  bindWouldCost,
  bindCostRates,
  bindCatalogue,
  bindSearch,
  bindJobs,
  bindViews,
  bindNotices,
  bindPromises,
  bindUmbrellas,
  bindIntake,
  bindEscalation,
  bindFlatFees,
  bindCanned,
  bindOwnFields,
  bindOwnConditions,
  bindStatuses,
  bindTemplates,
  bindMailRules,
  bindRoutines,
  bindRequestForms,
  bindCalendars,
  bindFollowers,
  bindRelations,
  bindEvents,
  bindUploads,
  bindPresence,
  bindUsage,
  bindKinds,
  bindDeskSettings,
  bindFeeds,
  bindPeople,
  bindFitting,
  bindPlanning,
  bindTravel,
  bindOpenings,
  bindTeamWeek,
  bindContractTime,
  bindClosings,
  bindTimeContract,
  bindWeekSheet,
  bindProposedEntries,
  bindPlanAndFact,
  bindOutsideCalendars,
];
