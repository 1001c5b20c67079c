import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { contractRoutes, type ContractWire, type LineWire, type SeatWire } from '@core/contracts';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { DateInput } from '../../ui/date-input';
import { DatePipe, UnitPricePipe } from '../../ui/pipes';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';
import { isoDay, plainDate } from '../../ui/time-format';
import { contractForms, LINE_FIELDS, PRICE_FIELDS, seatLines } from './contract-forms';

/** What is billed again each period, and who or what is on it. */
@Component({
  selector: 'dl-contract-lines',
  imports: [DateInput, DatePipe, RecordFormPanel, UnitPricePipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let c = contract();
    @let may = session.may('contracts.edit');
    <h2>
      Lines
      @if (may) {
        <button type="button" class="btn-link small" (click)="open(forms.addLine(c), 'line')">add one</button>
      }
    </h2>
    @for (l of c.lines; track l.id) {
      <section [attr.aria-label]="l.name">
        <p class="line">
          <span
            ><b>{{ l.name }}</b> <span class="mono">{{ priceNow(l) | unitPrice: c.currency }}</span> {{ each(l) }}
            <span class="soft small">{{ when(l) }}</span></span
          >
          @if (may) {
            <span class="acts">
              <button type="button" class="btn-link small" (click)="open(forms.price(c, l), 'price')">
                another price<span class="visually-hidden"> of {{ l.name }}</span>
              </button>
              <button type="button" class="btn-link small" (click)="ending.set(ending() === l.id ? undefined : l.id)">
                {{ l.lastDay ? 'move its end' : 'end' }}<span class="visually-hidden"> {{ l.name }}</span>
              </button>
            </span>
          }
        </p>
        @for (p of l.prices; track p.from) {
          <p class="small">{{ p.price | unitPrice: c.currency }} from {{ p.from | date }}</p>
        }
        @if (ending() === l.id) {
          <p class="end">
            <dl-date [label]="'Last day of ' + l.name" [value]="l.lastDay ?? ''" (changed)="endLine(l, $event)" />
            @if (l.lastDay) {
              <button type="button" class="btn-link small" (click)="endLine(l, '')">let it go on</button>
            }
          </p>
        }
        @if (l.counted !== 'flat') {
          <p class="seats">
            <span class="soft small">{{ here(l) }}</span>
            @if (may) {
              <button type="button" class="btn-link small" (click)="open(forms.seats(c, l), l.counted)">
                put {{ l.counted === 'seat' ? 'people' : 'assets' }} on it
              </button>
            }
          </p>
          <table class="rows">
            @for (s of l.seats; track s.id) {
              <tr [class.soft]="!isOn(s)">
                <td>{{ s.name }}</td>
                <td>from {{ s.startsOn | date }}</td>
                <td>
                  @if (ending() === s.id) {
                    <dl-date [label]="'Last day of ' + s.name" [value]="s.lastDay ?? ''" (changed)="endSeat(s, $event)" />
                  } @else if (s.lastDay) {
                    to {{ s.lastDay | date }}
                  }
                </td>
                <td class="end-acts">
                  @if (may) {
                    <button type="button" class="btn-link small" (click)="ending.set(ending() === s.id ? undefined : s.id)">
                      {{ s.lastDay ? 'move the end' : 'last day' }}<span class="visually-hidden"> of {{ s.name }}</span>
                    </button>
                    @if (s.lastDay) {
                      <button type="button" class="btn-link small" (click)="endSeat(s, '')">
                        stays<span class="visually-hidden">: {{ s.name }}</span>
                      </button>
                    }
                  }
                </td>
              </tr>
            }
          </table>
        }
      </section>
    } @empty {
      <p class="soft small">None: nothing is billed again each period.</p>
    }
    @if (form(); as f) {
      <dl-record-form [form]="f.form" [lines]="lines()" (saved)="done()" (closed)="done()" />
    }
  `,
  styleUrl: './contract.css',
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
    td {
      padding: 1px 8px 1px 0;
      white-space: nowrap;
    }
    .end-acts {
      text-align: right;
    }
  `,
})
export class ContractLines {
  readonly contract = input.required<ContractWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly forms = contractForms();
  protected readonly form = signal<{ readonly form: RecordForm; readonly of: 'line' | 'price' | 'seat' | 'asset' } | undefined>(undefined);
  /** The line, or whoever is on it, whose last day is being said. */
  protected readonly ending = signal<string | undefined>(undefined);
  private readonly units = seatLines(
    computed(() => {
      const open = this.form()?.of;
      return open === 'seat' || open === 'asset' ? { clientId: this.contract().clientId, counted: open } : undefined;
    }),
  );
  protected readonly lines = computed((): readonly Line[] => {
    const open = this.form()?.of;
    return open === 'line' ? LINE_FIELDS : open === 'price' ? PRICE_FIELDS : this.units();
  });

  protected open(form: RecordForm, of: 'line' | 'price' | 'seat' | 'asset' | 'flat'): void {
    this.form.set(undefined);
    if (of !== 'flat') setTimeout(() => this.form.set({ form, of }));
  }

  private today(): string {
    return isoDay(this.session.now(), this.session.zone);
  }

  protected priceNow({ price, prices }: LineWire): string {
    return prices.findLast((p) => p.from <= this.today())?.price ?? price;
  }

  protected each({ counted, frequency }: LineWire): string {
    const of = { flat: '', seat: ' a seat', asset: ' an asset' }[counted];
    return `${of} ${frequency}`.trim();
  }

  protected when({ paid, leadDays, minimum, maximum, proration, startsOn, lastDay }: LineWire): string {
    return [
      paid === 'in advance' ? `in advance, ${leadDays} days before` : paid,
      minimum !== null && `at least ${minimum}`,
      maximum !== null && `at most ${maximum}`,
      proration !== 'daily' && `a part of a period: ${proration}`,
      startsOn > this.today() && `from ${plainDate(startsOn)}`,
      lastDay && `until ${plainDate(lastDay)}`,
    ]
      .filter(Boolean)
      .join(', ');
  }

  protected isOn({ startsOn, lastDay }: SeatWire): boolean {
    return startsOn <= this.today() && (lastDay === null || lastDay >= this.today());
  }

  protected here({ seats, counted }: LineWire): string {
    const now = seats.filter((s) => this.isOn(s)).length;
    const [one, many] = counted === 'seat' ? ['seat', 'seats'] : ['asset', 'assets'];
    return `${now} ${now === 1 ? one : many} today`;
  }

  protected endLine(line: LineWire, lastDay: string): void {
    this.store(
      this.api.call(contractRoutes.endLine, {
        params: { contractId: this.contract().id, lineId: line.id },
        version: line.version,
        body: { lastDay: lastDay || null },
      }),
    );
  }

  protected endSeat(seat: SeatWire, lastDay: string): void {
    this.store(
      this.api.call(contractRoutes.endSeat, {
        params: { contractId: this.contract().id, seatId: seat.id },
        version: seat.version,
        body: { lastDay: lastDay || null },
      }),
    );
  }

  private store(stored: ReturnType<Api['call']>): void {
    stored.subscribe({
      next: () => {
        this.toasts.done('Saved');
        this.ending.set(undefined);
        this.changed.emit();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected done(): void {
    this.form.set(undefined);
    this.changed.emit();
  }
}
