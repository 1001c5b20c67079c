import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { map, startWith, Subject } from 'rxjs';
import {
  approvalRuleRoutes,
  CHARGE_KINDS,
  chargeReviewSchema,
  setApprovalRuleSchema,
  type ApprovalRuleWire,
  type ChargeReviewForm,
} from '@core/billing';
import { plural } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import type { Option } from '../../ui/field';
import { loading } from '../../ui/loading';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';
import { type RuleRow, RuleRows } from '../../ui/rule-rows';
import { StateNote } from '../../ui/state-note';
import { everyClient } from '../payments/every-client';

interface Read extends ChargeReviewForm {
  readonly version: number;
  readonly rules: readonly ApprovalRuleWire[];
}

const linesFor = (clients: readonly Option[]): readonly Line[] => [
  { name: 'kind', label: 'Charges', kind: 'choice', options: CHARGE_KINDS.map((kind) => ({ value: kind, label: kind })) },
  { name: 'clientId', label: 'Client', kind: 'choice', none: 'every client', options: clients },
  { name: 'afterDays', label: 'Days after the charge; empty is never', kind: 'number' },
];
const LIMIT_LINES: readonly Line[] = [
  { name: 'oldDays', label: 'Old after days', kind: 'number' },
  { name: 'ratePercent', label: 'A rate is odd from percent beside the usual', kind: 'number' },
];

/** What is approved without anybody pressing, and from where on a charge is odd and waits for a person. */
@Component({
  selector: 'dl-approval-rules',
  imports: [AsyncPipe, RecordFormPanel, RuleRows, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = now$ | async; @let may = session.may('charges.decide');
    <section class="panel rules" aria-label="Approved by itself">
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="again.next()" />
      } @else if (now) {
        <dl-rule-rows
          heading="Approved by itself"
          add="add a rule"
          none="Nothing: every charge waits for somebody to approve it."
          [rows]="rows(now.value)"
          [editable]="may"
          [formOf]="formOf(now.value)"
          (takenAway)="takeAway(now.value.rules[$event]!)"
          (changed)="again.next()"
        />
        <p class="soft small">
          What is odd waits for a person, whatever a rule says; so does what somebody took back. A client's own rule counts before that of
          every client.
        </p>
        <p class="line">
          <span
            >Odd: older than <b>{{ now.value.oldDays }} days</b>, a rate that differs by more than <b>{{ now.value.ratePercent }} %</b> from
            what the client paid for the like</span
          >
          @if (may && !open()) {
            <button type="button" class="btn-link small" (click)="open.set(true)">
              change<span class="visually-hidden"> what is odd</span>
            </button>
          }
        </p>
        @if (open()) {
          <dl-record-form
            [form]="limits(now.value)"
            [lines]="limitLines"
            (saved)="open.set(false); again.next()"
            (closed)="open.set(false)"
          />
        }
      }
    </section>
  `,
  styles: `
    .rules {
      padding: 12px 14px;
      margin-bottom: 16px;
    }
    .line {
      display: flex;
      gap: 14px;
      justify-content: space-between;
      margin: 8px 0 0;
    }
  `,
})
export class ApprovalRules {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly open = signal(false);
  private readonly clients = toSignal(everyClient(this.api), { initialValue: [] });
  protected readonly limitLines = LIMIT_LINES;
  protected readonly now$ = loading(this.again.pipe(startWith(undefined)), () => this.api.call(approvalRuleRoutes.listApprovalRules, {}));

  protected rows({ rules }: Read): RuleRow[] {
    return rules.map(({ kind, client, afterDays }) => ({
      says: `${kind} of ${client ?? 'every client'}`,
      more:
        afterDays === null
          ? 'never by itself'
          : afterDays === 0
            ? "on the charge's day"
            : `${plural(afterDays, 'day')} after the charge's day`,
    }));
  }

  protected readonly formOf = (read: Read) => (n: number) => ({ form: this.form(read.rules[n]), lines: linesFor(this.clients()) });

  private form(rule: ApprovalRuleWire | undefined): RecordForm {
    const form: RecordForm<typeof setApprovalRuleSchema> = {
      schema: setApprovalRuleSchema,
      initial: rule
        ? { kind: rule.kind, clientId: rule.clientId, afterDays: rule.afterDays }
        : { kind: 'recurring', clientId: null, afterDays: 1 },
      draft: `approval-rule.${rule?.id ?? 'new'}`,
      does: rule ? 'Change it' : 'Add it',
      save: (body) => this.api.call(approvalRuleRoutes.setApprovalRule, { body }),
    };
    return form as unknown as RecordForm;
  }

  protected limits(read: Read): RecordForm {
    const form: RecordForm<typeof chargeReviewSchema> = {
      schema: chargeReviewSchema,
      initial: { oldDays: read.oldDays, ratePercent: read.ratePercent },
      draft: 'charge-review',
      does: 'Save',
      version: read.version,
      save: (body, seen) =>
        this.api
          .call(approvalRuleRoutes.setChargeReview, { version: seen ?? read.version, body })
          .pipe(map(() => ({ id: 'charge-review' }))),
    };
    return form as unknown as RecordForm;
  }

  protected takeAway({ id }: ApprovalRuleWire): void {
    const params = { approvalRuleId: id };
    this.api.call(approvalRuleRoutes.takeApprovalRuleAway, { params }).subscribe({
      next: () => {
        this.again.next();
        this.toasts.done('Taken away', () =>
          this.api.call(approvalRuleRoutes.giveApprovalRuleBack, { params }).subscribe({
            next: () => this.again.next(),
            error: (fault: unknown) => this.toasts.trouble(fault),
          }),
        );
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
