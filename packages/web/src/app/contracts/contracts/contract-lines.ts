import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Observable } from 'rxjs';
import { contractRoutes, type ContractWire, isOnDay, type LineWire, type SeatWire } from '@core/contracts';
import { parseLocalDate } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { DateInput } from '../../ui/date-input';
import { type OpenedForm, OpenedFormPanel } from '../../ui/opened-form';
import { DatePipe, MoneyPipe, UnitPricePipe } from '../../ui/pipes';
import { isoDay } from '../../ui/time-format';
import { LineReadings } from '../readings/line-readings';
import { LinePrices } from '../prices/line-prices';
import { DISCOUNT_FIELDS, pricesForms, RAISE_FIELDS } from '../prices/prices-forms';
import { LINE_FIELDS, lineForms, priceFields, seatLines } from './line-forms';
import { sayEach, sayWhen, stepOn } from './say-line';

/** What is billed again each period, and who or what is on it. */
@Component({
  selector: 'dl-contract-lines',
  imports: [DateInput, DatePipe, LinePrices, LineReadings, MoneyPipe, OpenedFormPanel, RouterLink, UnitPricePipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let c = contract();
    @let may = session.may('contracts.edit');
    <h2>
      Lines
      @if (may) {
        <span>
          @if (c.lines.length) {
            <button type="button" class="btn-link small" (click)="open({ at: 'lines', form: prices.raise(c), lines: raiseFields })">
              raise all prices
            </button>
          }
          <button type="button" class="btn-link small" (click)="open({ at: 'lines', form: forms.addLine(c), lines: lineFields })">
            add one
          </button>
        </span>
      }
    </h2>
    @for (l of c.lines; track l.id) {
      <section [attr.aria-label]="l.name">
        <p class="line">
          <span
            ><b>{{ l.name }}</b> <span class="mono">{{ priceNow(l) | unitPrice: c.currency }}</span> {{ each(l) }}
            <span class="soft small">{{ when(l) }}</span>
            @if (l.counted !== 'flat' && l.monthly.minor) {
              <span class="small">· {{ l.monthly | money }} a month</span>
            }
            @if (l.margin; as left) {
              <span class="small" [class.late]="left.left.minor < 0" title="after what it costs us"
                >· {{ left.left | money }} of it left, {{ left.percent }} %</span
              >
            }
          </span>
          @if (may) {
            <span class="acts">
              <button type="button" class="btn-link small" (click)="open({ at: l.id, form: forms.price(c, l), lines: priceFields(l) })">
                another price<span class="visually-hidden"> of {{ l.name }}</span>
              </button>
              <button type="button" class="btn-link small" (click)="open({ at: l.id, form: prices.discount(c, l), lines: discountFields })">
                discount<span class="visually-hidden"> on {{ l.name }}</span>
              </button>
              @if (l.frequency === 'once') {
                <button type="button" class="btn-link small" (click)="takeAway(l)">
                  take away<span class="visually-hidden"> {{ l.name }}</span>
                </button>
              } @else {
                <button type="button" class="btn-link small" (click)="ending.set(ending() === l.id ? undefined : l.id)">
                  {{ l.lastDay ? 'move its end' : 'end' }}<span class="visually-hidden"> {{ l.name }}</span>
                </button>
              }
            </span>
          }
        </p>
        <dl-line-prices [contract]="c" [line]="l" (changed)="changed.emit()" />
        @if (ending() === l.id) {
          <p class="end">
            <dl-date [label]="'Last day of ' + l.name" [value]="l.lastDay ?? ''" (changed)="endLine(l, $event)" />
            @if (l.lastDay) {
              <button type="button" class="btn-link small" (click)="endLine(l, '')">let it go on</button>
            }
            <button type="button" class="btn-link small" (click)="takeAway(l)">
              as if never agreed: take it away<span class="visually-hidden">, {{ l.name }}</span>
            </button>
          </p>
        }
        @if (l.counted === 'metered') {
          <dl-line-readings [contract]="c" [line]="l" (changed)="changed.emit()" />
        } @else if (l.counted !== 'flat') {
          <p class="seats">
            <span class="soft small">{{ here(l) }}</span>
            @if (may) {
              <button type="button" class="btn-link small" (click)="putOn(l)">
                put {{ l.counted === 'seat' ? 'people' : 'assets' }} on it
              </button>
            }
          </p>
        }
        <dl-opened-form [opened]="form()" [at]="l.id" [lines]="adding() ? units() : undefined" (done)="done()" />
        @if (l.seats.length) {
          <table class="rows">
            @for (s of l.seats.slice(0, most); track s.id) {
              <tr [class.soft]="!isOn(s)">
                <td>{{ s.name }}</td>
                <td>
                  {{ s.lastDay ? '' : 'from ' }}{{ s.startsOn | date }}{{ s.lastDay ? ' to ' : ''
                  }}{{ s.lastDay ? (s.lastDay | date) : '' }}
                </td>
                <td class="end-acts">
                  @if (may) {
                    <button type="button" class="btn-link small" (click)="ending.set(ending() === s.id ? undefined : s.id)">
                      last day<span class="visually-hidden"> of {{ s.name }}</span>
                    </button>
                    <button type="button" class="btn-link small" (click)="takeOff(l, s)">
                      take off<span class="visually-hidden">: {{ s.name }}</span>
                    </button>
                  }
                </td>
              </tr>
              @if (ending() === s.id) {
                <tr>
                  <td colspan="3">
                    <span class="end">
                      <dl-date [label]="'Last day of ' + s.name" [value]="s.lastDay ?? ''" (changed)="endSeat(s, $event)" />
                      @if (s.lastDay) {
                        <button type="button" class="btn-link small" (click)="endSeat(s, '')">
                          stays<span class="visually-hidden">: {{ s.name }}</span>
                        </button>
                      }
                    </span>
                  </td>
                </tr>
              }
            }
          </table>
        }
        @if (l.seats.length) {
          <p class="small">
            @if (l.seats.length > most) {
              And {{ l.seats.length - most }} more.
            }
            <a [routerLink]="['/clients', c.clientId, 'seats']">All seats of {{ c.client }}</a>
          </p>
        }
      </section>
    } @empty {
      <p class="soft small">None: nothing is billed again each period.</p>
    }
    <dl-opened-form [opened]="form()" at="lines" (done)="done()" />
  `,
  styleUrl: '../../ui/rule-rows.css',
  styles: `
    section {
      margin-bottom: 10px;
    }
    .seats,
    .end {
      display: flex;
      justify-content: space-between;
      padding: 4px 0;
    }
    .end {
      justify-content: flex-start;
      gap: 8px;
      align-items: center;
    }
    table {
      table-layout: fixed;
      width: 100%;
    }
    td {
      padding: 1px 8px 1px 0;
      overflow-wrap: anywhere;
    }
    td:nth-child(2) {
      width: 176px;
    }
    .end-acts {
      width: 132px;
      text-align: right;
      white-space: nowrap;
    }
  `,
})
export class ContractLines {
  readonly contract = input.required<ContractWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly forms = lineForms();
  /** So many are shown here; the grid of seats has all. */
  protected readonly most = 10;
  protected readonly prices = pricesForms();
  protected readonly discountFields = DISCOUNT_FIELDS;
  protected readonly raiseFields = RAISE_FIELDS;
  protected readonly lineFields = LINE_FIELDS;
  protected readonly priceFields = priceFields;
  protected readonly form = signal<OpenedForm | undefined>(undefined);
  /** The line on which somebody or something is being put. */
  protected readonly adding = signal<LineWire | undefined>(undefined);
  /** The line, or whoever is on it, whose last day is being said. */
  protected readonly ending = signal<string | undefined>(undefined);
  protected readonly units = seatLines(
    computed(() => {
      const line = this.adding();
      if (!line) return undefined;
      const staying = line.seats.filter((s) => s.lastDay === null).map((s) => s.contactId ?? s.assetId!);
      return { clientId: this.contract().clientId, counted: line.counted, besides: new Set<string>(staying) };
    }),
  );

  protected open(form: OpenedForm): void {
    this.adding.set(undefined);
    this.form.set(form);
  }

  protected putOn(line: LineWire): void {
    this.adding.set(line);
    this.form.set({ at: line.id, form: this.forms.seats(this.contract(), line), lines: [] });
  }

  private today() {
    return parseLocalDate(isoDay(this.session.now(), this.session.zone));
  }

  protected priceNow(line: LineWire): string {
    return stepOn(line, this.today()).price;
  }

  protected each(line: LineWire): string {
    return sayEach(line, this.today(), this.contract().currency);
  }

  protected when(line: LineWire): string {
    return sayWhen(line, this.today());
  }

  protected isOn(seat: SeatWire): boolean {
    return isOnDay(seat, this.today());
  }

  protected here({ seats, counted }: LineWire): string {
    const now = seats.filter((s) => this.isOn(s)).length;
    const [one, many] = counted === 'seat' ? ['seat', 'seats'] : ['asset', 'assets'];
    return `${now} ${now === 1 ? one : many} today`;
  }

  protected endLine({ id: lineId, version, lastDay: before }: LineWire, lastDay: string): void {
    const end = (seen: number, day: string | null) =>
      this.api.call(contractRoutes.endLine, { params: { contractId: this.contract().id, lineId }, version: seen, body: { lastDay: day } });
    this.store(end(version, lastDay || null), (done) => end(done.version, before));
  }

  protected takeAway({ id: lineId, version }: LineWire): void {
    const params = { contractId: this.contract().id, lineId };
    this.store(this.api.call(contractRoutes.takeLineAway, { params, version }), (done) =>
      this.api.call(contractRoutes.giveLineBack, { params, version: done.version }),
    );
  }

  protected endSeat({ id: seatId, version, lastDay: before }: SeatWire, lastDay: string): void {
    const end = (seen: number, day: string | null) =>
      this.api.call(contractRoutes.endSeat, { params: { contractId: this.contract().id, seatId }, version: seen, body: { lastDay: day } });
    this.store(end(version, lastDay || null), (done) => end(done.version, before));
  }

  /** For one who was put on it by mistake. */
  protected takeOff({ id: lineId }: LineWire, { id, contactId, assetId, startsOn, lastDay }: SeatWire): void {
    const contractId = this.contract().id;
    const back = { unitIds: [contactId ?? assetId!], startsOn, lastDay };
    this.store(this.api.call(contractRoutes.takeOffSeats, { params: { contractId }, body: { seatIds: [id] } }), () =>
      this.api.call(contractRoutes.addSeats, { params: { contractId, lineId }, body: back }),
    );
  }

  private store<T>(stored: Observable<T>, undo: (done: T) => Observable<unknown>): void {
    stored.subscribe({
      next: (done) => {
        this.toasts.done('Saved', () => this.takeBack(undo(done)));
        this.ending.set(undefined);
        this.changed.emit();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  private takeBack(undone: Observable<unknown>): void {
    undone.subscribe({ next: () => this.changed.emit(), error: (fault: unknown) => this.toasts.trouble(fault) });
  }

  protected done(): void {
    this.form.set(undefined);
    this.adding.set(undefined);
    this.changed.emit();
  }
}
