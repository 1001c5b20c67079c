import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { type AllowanceWire, contractRoutes, type ContractWire, type CoverRuleForm, grantUnits, sayUnits } from '@core/contracts';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { DatePipe } from '../../ui/pipes';
import { type OpenedForm, OpenedFormPanel } from '../../ui/opened-form';
import { plainDate } from '../../ui/time-format';
import { ALLOWANCE_FIELDS, AMEND_FIELDS, BLOCK_FIELDS, contractForms, coverLines, rulesOf } from './contract-forms';

/** Which work a contract covers, in order, and how much of it. */
@Component({
  selector: 'dl-contract-cover',
  imports: [DatePipe, OpenedFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let c = contract();
    @let may = session.may('contracts.edit');
    <h2>
      Allowances
      @if (may) {
        <button type="button" class="btn-link small" (click)="form.set({ at: 'allowances', form: forms.addAllowance(c), lines: fields })">
          add one
        </button>
      }
    </h2>
    @for (a of c.allowances; track a.id) {
      <p class="line">
        <span
          ><b>{{ a.name }}</b> {{ granted(a) }} <span class="soft small">{{ more(a) }}</span></span
        >
        @if (may) {
          <span class="acts">
            <button type="button" class="btn-link small" (click)="form.set({ at: a.id, form: forms.editAllowance(c, a), lines: fields })">
              change<span class="visually-hidden"> {{ a.name }}</span>
            </button>
            @if (a.each === 'once' && a.measure !== 'unlimited') {
              <button type="button" class="btn-link small" (click)="form.set({ at: a.id, form: forms.block(c, a), lines: blockFields })">
                sell a block<span class="visually-hidden"> of {{ a.name }}</span>
              </button>
            } @else if (a.measure !== 'unlimited') {
              <button type="button" class="btn-link small" (click)="form.set({ at: a.id, form: forms.amend(c, a), lines: amendFields })">
                amend<span class="visually-hidden"> {{ a.name }}</span>
              </button>
            }
          </span>
        }
      </p>
      @for (l of a.later; track l.from) {
        <p class="small">
          {{ units(a, l.grant) }} each period that begins from {{ l.from | date }}
          @if (may) {
            <button type="button" class="btn-link small" (click)="takeGrantAway(a, l)">
              take away<span class="visually-hidden">: {{ a.name }} from {{ l.from | date }}</span>
            </button>
          }
        </p>
      }
      @for (b of a.blocks; track b.startsOn) {
        <p class="small">
          {{ units(a, b.grant) }} from {{ b.startsOn | date }}{{ b.lastDay ? ' to ' : '' }}{{ b.lastDay ? (b.lastDay | date) : '' }}
        </p>
      }
      <dl-opened-form [opened]="form()" [at]="a.id" (done)="done()" />
    } @empty {
      <p class="soft small">None: work goes by the hour.</p>
    }
    <dl-opened-form [opened]="form()" at="allowances" (done)="done()" />
    <h2>
      Covered work
      @if (may) {
        <button
          type="button"
          class="btn-link small"
          (click)="form.set({ at: 'cover', form: forms.cover(c, c.cover.length), lines: rules() })"
        >
          add a rule
        </button>
      }
    </h2>
    @for (r of c.cover; track r.id; let n = $index) {
      <p class="line">
        <span class="mono soft small">{{ n + 1 }}</span>
        <span
          ><b>{{ r.says }}</b> <span class="soft small">{{ draws(r) }}</span></span
        >
        @if (may) {
          <span class="acts">
            @if (n > 0) {
              <button type="button" class="btn-link small" (click)="set(without(n, n - 1))">
                up<span class="visually-hidden">, rule {{ n + 1 }}</span>
              </button>
            }
            <button type="button" class="btn-link small" (click)="form.set({ at: r.id, form: forms.cover(c, n), lines: rules() })">
              change<span class="visually-hidden"> rule {{ n + 1 }}</span>
            </button>
            <button type="button" class="btn-link small" (click)="set(without(n))">
              take away<span class="visually-hidden"> rule {{ n + 1 }}</span>
            </button>
          </span>
        }
      </p>
      <dl-opened-form [opened]="form()" [at]="r.id" (done)="done()" />
    } @empty {
      <p class="soft small">Nothing: all work is charged at its rate.</p>
    }
    <dl-opened-form [opened]="form()" at="cover" (done)="done()" />
  `,
  styleUrl: '../../ui/rule-rows.css',
})
export class ContractCover {
  readonly contract = input.required<ContractWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly forms = contractForms();
  protected readonly rules = coverLines(this.contract);
  protected readonly fields = ALLOWANCE_FIELDS;
  protected readonly amendFields = AMEND_FIELDS;
  protected readonly blockFields = BLOCK_FIELDS;
  protected readonly form = signal<OpenedForm | undefined>(undefined);

  protected granted(a: AllowanceWire): string {
    const { currency } = this.contract();
    if (a.measure === 'unlimited') return 'without limit';
    if (a.each === 'once' && a.blocks.length && Number(a.grant) === 0) return 'bought in blocks';
    return `${sayUnits(a.measure, grantUnits(a.measure, a.grant, currency)!, currency)} ${a.each}`;
  }

  protected units({ measure }: AllowanceWire, grant: string): string {
    const { currency } = this.contract();
    return sayUnits(measure, grantUnits(measure, grant, currency)!, currency);
  }

  protected takeGrantAway({ id: allowanceId }: AllowanceWire, grant: AllowanceWire['later'][number]): void {
    const params = { contractId: this.contract().id, allowanceId };
    const back = () => this.api.call(contractRoutes.setGrant, { params, body: grant }).subscribe(again);
    const again = { next: () => this.changed.emit(), error: (fault: unknown) => this.toasts.trouble(fault) };
    this.api.call(contractRoutes.takeGrantAway, { params, body: { from: grant.from } }).subscribe({
      ...again,
      next: () => {
        this.toasts.done('The amendment is taken away', back);
        this.changed.emit();
      },
    });
  }

  protected more(a: AllowanceWire): string {
    return [
      a.carryDays && `carries over ${a.carryDays} days`,
      a.borrowPercent && `borrows up to ${a.borrowPercent} % of the next`,
      a.granted === 'by days' && 'by days in a part of a period',
    ]
      .filter(Boolean)
      .join(', ');
  }

  protected draws(r: ContractWire['cover'][number]): string {
    const allowance = this.contract().allowances.find((a) => a.id === r.allowanceId);
    return [
      allowance ? `draws on ${allowance.name}` : 'nothing: all is billed',
      r.cap && `at most ${r.cap} ${allowance?.measure === 'money' ? '' : 'h '}in a period`,
      r.overageFactor && `overage × ${r.overageFactor}`,
      r.includesFees && 'call-outs with it',
      r.startsOn && `from ${plainDate(r.startsOn)}`,
      r.lastDay && `until ${plainDate(r.lastDay)}`,
    ]
      .filter(Boolean)
      .join(', ');
  }

  /** The rules without one of them, or with it at another place. */
  protected without(n: number, to?: number): CoverRuleForm[] {
    const rules = rulesOf(this.contract());
    const [taken] = rules.splice(n, 1);
    if (to !== undefined) rules.splice(to, 0, taken!);
    return rules;
  }

  protected set(rules: CoverRuleForm[]): void {
    const { id: contractId, version } = this.contract();
    const before = rulesOf(this.contract());
    this.api.call(contractRoutes.setCover, { params: { contractId }, version, body: { rules } }).subscribe({
      next: (done) => {
        this.toasts.done('What it covers is changed', () => this.putBack(before, done.version));
        this.changed.emit();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  private putBack(rules: CoverRuleForm[], version: number): void {
    this.api.call(contractRoutes.setCover, { params: { contractId: this.contract().id }, version, body: { rules } }).subscribe({
      next: () => this.changed.emit(),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected done(): void {
    this.form.set(undefined);
    this.changed.emit();
  }
}
