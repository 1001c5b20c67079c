import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { contractFormSchema, contractRoutes, type ContractWire, noticeBy } from '@core/contracts';
import { type Id, parseLocalDate, plusDays } from '@core/ground';
import { PriceRules } from '../../goods';
import { Api } from '../../shell/api';
import { PageAddress } from '../../shell/page-address';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { DatePipe } from '../../ui/pipes';
import { RecordFormPanel, type RecordForm } from '../../ui/record-form';
import { showRecord } from '../../ui/shown-record';
import { StateNote } from '../../ui/state-note';
import { Story } from '../../ui/story';
import { Together } from '../../ui/together';
import { ContractMeantFor } from '../choice/contract-meant-for';
import { ContractRates } from '../own-rates/contract-rates';
import { ContractCover } from './contract-cover';
import { contractForms } from './contract-forms';
import { ContractLines } from './contract-lines';
import { ContractSection } from './contract-sections';

/** What was agreed, from when, what it covers, what is left of it, and what the next invoice will be. */
@Component({
  selector: 'dl-contract-page',
  imports: [
    PriceRules,
    AsyncPipe,
    ContractCover,
    ContractLines,
    ContractMeantFor,
    ContractRates,
    ContractSection,
    DatePipe,
    RecordFormPanel,
    RouterLink,
    StateNote,
    Story,
    Together,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = contract.state$ | async;
    @if (now && now.is !== 'there') {
      <dl-state-note [state]="now" (again)="contract.again()" />
    } @else if (now) {
      @let c = now.value;
      <div class="page">
        <header class="page-head">
          <span class="mono soft">{{ c.number }}</span>
          <h1>{{ c.name }}</h1>
          <a class="ink-link" [routerLink]="['/clients', c.clientId]">{{ c.client }}</a>
          <span class="tag" [class.late]="c.state === 'ended'">{{ c.state }}</span>
          <span class="soft small">from {{ c.startsOn | date }}{{ c.lastDay ? ' to ' : '' }}{{ c.lastDay ? (c.lastDay | date) : '' }}</span>
          <span class="grow"></span>
          @if (session.may('charges.read')) {
            <a class="btn-plain" [routerLink]="['/clients', c.clientId, 'would-cost']" [queryParams]="{ contractId: c.id }"
              >What would it cost?</a
            >
          }
          @if (session.may('contracts.edit')) {
            <button type="button" class="btn-plain" (click)="editing = editing ? undefined : forms.terms(c)">Change</button>
            @if (c.state === 'draft') {
              <button type="button" class="btn-main" (click)="agree(c)">It is agreed</button>
            }
          }
        </header>
        <div class="page-body">
          @if (editing) {
            <dl-record-form
              [form]="editing"
              [lines]="forms.termsLines"
              (saved)="editing = undefined; contract.again()"
              (closed)="editing = undefined; contract.again()"
            />
          }
          @if (c.state === 'draft') {
            <p class="wash note">A draft: it covers no work and bills nothing before it is agreed.</p>
          }
          <div class="columns" [dlTogether]="c.id">
            <div>
              <dl-contract-section at="what was drawn" [contract]="c" />
              @if (session.may('charges.read')) {
                <dl-contract-section at="next invoice" [contract]="c" />
              }
            </div>
            <div class="terms">
              <dl-contract-cover [contract]="c" (changed)="contract.again()" />
              <dl-contract-lines [contract]="c" (changed)="contract.again()" />
              <dl-contract-rates [contract]="c" (changed)="contract.again()" />
              <dl-price-rules [contractId]="c.id" />
              <h2>Terms</h2>
              <dl class="facts">
                <dt>Division</dt>
                <dd>{{ c.division }}</dd>
                <dt>It takes</dt>
                <dd><dl-contract-meant-for [contract]="c" (changed)="contract.again()" /></dd>
                <dt>Overage</dt>
                <dd>at its rate × {{ c.overageFactor }}</dd>
                <dt>Periods</dt>
                <dd>{{ c.frequency }}, with {{ c.anchored }}</dd>
                @if (c.lastDay) {
                  <dt>At its end</dt>
                  <dd>
                    {{ c.renewal === 'ends' ? 'it ends' : 'it goes on for ' + c.termMonths + ' months' }}; notice until
                    {{ noticeBy(c) | date }}
                  </dd>
                }
                @if (c.preferred) {
                  <dt>Preferred</dt>
                  <dd>where they have several</dd>
                }
                @if (c.purchaseOrder) {
                  <dt>Purchase order</dt>
                  <dd>{{ c.purchaseOrder }}</dd>
                }
                @if (c.notes) {
                  <dt>Notes</dt>
                  <dd>{{ c.notes }}</dd>
                }
              </dl>
              <dl-story [story]="c.story" [earlier]="earlier" />
            </div>
          </div>
        </div>
      </div>
    }
  `,
  styles: `
    .columns {
      display: grid;
      grid-template-columns: minmax(0, 7fr) minmax(0, 6fr);
      gap: 32px;
    }
    h2 {
      margin: 18px 0 6px;
    }
    .terms {
      margin-top: -18px;
    }
    .note {
      padding: 8px 12px;
      border-radius: 4px;
      margin-bottom: 8px;
    }
    @media (max-width: 900px) {
      .columns {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
})
export class ContractPage {
  readonly contractId = input.required<Id<'contract'>>();
  private readonly api = inject(Api);
  private readonly address = inject(PageAddress);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly forms = contractForms();
  protected editing: RecordForm<typeof contractFormSchema> | undefined;
  protected readonly earlier = (before: string) =>
    this.api.call(contractRoutes.getContractStory, { params: { contractId: this.contractId() }, query: { before } });
  protected readonly contract = showRecord<ContractWire>({
    id: this.contractId,
    topics: ['contract'],
    read: (contractId) => this.api.call(contractRoutes.getContract, { params: { contractId } }),
    take: (c) => this.address.show({ under: '/contracts', param: 'contractId', number: String(c.number), name: `${c.number} ${c.name}` }),
  });

  protected noticeBy({ lastDay, noticeDays }: ContractWire): string {
    return noticeBy(plusDays(parseLocalDate(lastDay!), 1), noticeDays);
  }

  protected agree({ id: contractId, version }: ContractWire): void {
    this.api.call(contractRoutes.agreeContract, { params: { contractId }, version }).subscribe({
      next: () => {
        this.toasts.done('It is agreed');
        this.contract.again();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
