import { accessRoutes } from '../access';
import { assetRoutes } from '../assets';
import { calendarRoutes } from '../calendars';
import { catalogueRoutes } from '../catalogue';
import { chargeRoutes } from '../charges';
import { clientRoutes } from '../clients';
import { policyRoutes } from '../clocks';
import { dispatchRoutes } from '../dispatch';
import { houseRoutes } from '../house';
import { invoiceRoutes } from '../invoices';
import { jobRoutes } from '../jobs';
import { noticeRoutes } from '../notices';
import { searchRoutes } from '../search';
import { ticketRoutes } from '../tickets';
import { timeRoutes } from '../time-entries';
import { cannedRoutes } from '../canned';
import { escalationRoutes } from '../escalation';
import { flatFeeRoutes } from '../flat-fees';
import { intakeRoutes } from '../intake';
import { ownFieldRoutes } from '../own-fields';
import { statusRoutes } from '../statuses';
import { followerRoutes } from '../followers';
import { presenceRoutes } from '../presence';
import { relationRoutes } from '../relations';
import { uploadRoutes } from '../uploads';
import { usageRoutes } from '../usage';
import { kindRoutes } from '../kinds';
import { feedRoutes } from '../feeds';
import { peopleRoutes } from '../people';
import { requestFormRoutes } from '../request-forms';
import { routineRoutes } from '../routines';
import { mailRuleRoutes } from '../mail-rules';
import { templateRoutes } from '../templates';
import { umbrellaRoutes } from '../umbrellas';
import { viewRoutes } from '../views';
import { fittingRoutes } from '../fitting';
import { planningRoutes } from '../planning';
import { travelRoutes } from '../travel';
import { openingRoutes } from '../openings';
import { teamWeekRoutes } from '../team-week';
import { weekSheetRoutes } from '../week-sheet';
import { proposedEntryRoutes } from '../proposed-entries';
import { planAndFactRoutes } from '../plan-and-fact';
import { actionTimeRoutes } from '../action-time';
import { internalWorkRoutes } from '../internal-work';
import { approvalRoutes } from '../approval';
import { expenseRoutes } from '../expenses';
import { absenceRoutes } from '../absences';
import { hoursRoutes } from '../hours';
import { outsideCalendarRoutes } from '../outside-calendars';

/** Every route of the API. A fixed path stands before one with a parameter in the same place. */
export const apiRoutes = {
  ...accessRoutes,
  ...houseRoutes,
  ...ticketRoutes,
  ...dispatchRoutes,
  ...timeRoutes,
  ...approvalRoutes,
  ...actionTimeRoutes,
  ...internalWorkRoutes,
  ...expenseRoutes,
  ...absenceRoutes,
  ...hoursRoutes,
  ...chargeRoutes,
  ...invoiceRoutes,
  ...clientRoutes,
  ...assetRoutes,
  ...catalogueRoutes,
  ...searchRoutes,
  ...jobRoutes,
  ...viewRoutes,
  ...noticeRoutes,
  ...policyRoutes,
  ...umbrellaRoutes,
  ...intakeRoutes,
  ...escalationRoutes,
  ...flatFeeRoutes,
  ...cannedRoutes,
  ...ownFieldRoutes,
  ...statusRoutes,
  ...templateRoutes,
  ...mailRuleRoutes,
  ...routineRoutes,
  ...requestFormRoutes,
  ...calendarRoutes,
  ...followerRoutes,
  ...relationRoutes,
  ...uploadRoutes,
  ...presenceRoutes,
  ...usageRoutes,
  ...kindRoutes,
  ...feedRoutes,
  ...peopleRoutes,
  ...fittingRoutes,
  ...planningRoutes,
  ...travelRoutes,
  ...openingRoutes,
  ...teamWeekRoutes,
  ...weekSheetRoutes,
  ...proposedEntryRoutes,
  ...planAndFactRoutes,
  ...outsideCalendarRoutes,
};
export type ApiRoutes = typeof apiRoutes;
