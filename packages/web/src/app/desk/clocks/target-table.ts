import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { MOST_TARGET_MINUTES, type PromiseTargets, PRIORITIES, type Priority, TARGET_CALENDARS } from '@core/desk';
import { formatMinutes, parseMinutes } from '@core/ground';
import { picked } from '../../ui/picked';

type Target = PromiseTargets['triage'];
const CLOCKS = [
  ['response', 'First reply', 'until a person has told the client something'],
  ['update', 'Next word', 'from each public contact to the next'],
  ['resolution', 'Resolution', 'until it is resolved, holds left out'],
] as const;

/** A promise's targets as a table to type in: durations as people say them, and on whose calendar they count. */
@Component({
  selector: 'dl-target-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table class="rows">
      <thead>
        <tr>
          <th>Clock</th>
          @for (p of priorities; track p) {
            <th>{{ p }}</th>
          }
        </tr>
      </thead>
      <tbody>
        <tr>
          <td>
            <b>Triage</b>
            <div class="soft small">until it is routed, whatever the priority</div>
          </td>
          <td colspan="4">
            <span class="cell">
              <input
                #textBox
                class="in mono"
                type="text"
                aria-label="Triage"
                [value]="words(targets().triage)"
                [class.wrong]="bad()['triage']"
                (change)="typed('triage', undefined, textBox.value)"
              />
              <select
                #selectBox
                class="in"
                aria-label="Triage counts on"
                (change)="on('triage', undefined, picked(calendars, selectBox.value))"
              >
                @for (c of calendars; track c) {
                  <option [value]="c" [selected]="c === targets().triage.on">{{ calendarWords(c) }}</option>
                }
              </select>
            </span>
            @if (bad()['triage']) {
              <span class="late small">{{ bad()['triage'] }}</span>
            }
          </td>
        </tr>
        @for (clock of clocks; track clock[0]) {
          <tr>
            <td>
              <b>{{ clock[1] }}</b>
              <div class="soft small">{{ clock[2] }}</div>
            </td>
            @for (p of priorities; track p) {
              @let target = targets()[clock[0]][p];
              <td>
                <span class="cell">
                  <input
                    #textBox2
                    class="in mono"
                    type="text"
                    [attr.aria-label]="clock[1] + ' ' + p"
                    [value]="words(target)"
                    [class.wrong]="bad()[clock[0] + p]"
                    (change)="typed(clock[0], p, textBox2.value)"
                  />
                  <select
                    #selectBox2
                    class="in"
                    [attr.aria-label]="clock[1] + ' ' + p + ' counts on'"
                    (change)="on(clock[0], p, picked(calendars, selectBox2.value))"
                  >
                    @for (c of calendars; track c) {
                      <option [value]="c" [selected]="c === target.on">{{ calendarWords(c) }}</option>
                    }
                  </select>
                </span>
                @if (bad()[clock[0] + p]) {
                  <span class="late small">{{ bad()[clock[0] + p] }}</span>
                }
              </td>
            }
          </tr>
        }
      </tbody>
    </table>
    <p class="more">
      <label
        >Until triage as
        <select #selectBox3 class="in" (change)="changed.emit({ ...targets(), defaultPriority: picked(priorities, selectBox3.value) })">
          @for (p of priorities; track p) {
            <option [selected]="p === targets().defaultPriority">{{ p }}</option>
          }
        </select>
      </label>
      <label
        >Warn at percent
        <input #textBox3 class="in mono" type="text" [value]="targets().warnAt.join(', ')" (change)="warn(textBox3.value)" />
      </label>
      @if (bad()['warnAt'] ?? wrong()['targets.warnAt']; as why) {
        <span class="late small">{{ why }}</span>
      }
    </p>
  `,
  styles: `
    .cell {
      display: flex;
      gap: 4px;
    }
    .cell .mono {
      width: 76px;
    }
    .cell select {
      width: 104px;
      font-size: 12.5px;
    }
    td {
      vertical-align: top !important;
    }
    .more {
      display: flex;
      gap: 20px;
      align-items: center;
      margin-top: 10px;
    }
    .more label {
      display: flex;
      gap: 8px;
      align-items: center;
      white-space: nowrap;
    }
    .more .in {
      width: 80px;
    }
  `,
})
export class TargetTable {
  readonly targets = input.required<PromiseTargets>();
  readonly wrong = input<Readonly<Record<string, string>>>({});
  readonly changed = output<PromiseTargets>();
  protected readonly clocks = CLOCKS;
  protected readonly picked = picked;
  protected readonly priorities = PRIORITIES;
  protected readonly calendars = TARGET_CALENDARS;
  protected readonly bad = signal<Readonly<Record<string, string>>>({});

  protected words(target: Target): string {
    return formatMinutes(target.minutes);
  }

  protected calendarWords(calendar: (typeof TARGET_CALENDARS)[number]): string {
    return { provider: 'our hours', client: 'their hours', 'round the clock': 'all hours' }[calendar];
  }

  protected typed(clock: 'triage' | (typeof CLOCKS)[number][0], priority: Priority | undefined, text: string): void {
    const minutes = parseMinutes(text, MOST_TARGET_MINUTES);
    const key = clock + (priority ?? '');
    if (!minutes) return this.bad.set({ ...this.bad(), [key]: 'a time such as 30, 1:30 or 2 h' });
    const { [key]: _, ...rest } = this.bad();
    this.bad.set(rest);
    this.put(clock, priority, { minutes });
  }

  protected on(clock: 'triage' | (typeof CLOCKS)[number][0], priority: Priority | undefined, calendar: Target['on']): void {
    this.put(clock, priority, { on: calendar });
  }

  private put(clock: 'triage' | (typeof CLOCKS)[number][0], priority: Priority | undefined, part: Partial<Target>): void {
    const now = this.targets();
    if (clock === 'triage' || !priority) return this.changed.emit({ ...now, triage: { ...now.triage, ...part } });
    this.changed.emit({ ...now, [clock]: { ...now[clock], [priority]: { ...now[clock][priority], ...part } } });
  }

  protected warn(text: string): void {
    const warnAt = text.split(/[ ,]+/).filter(Boolean).map(Number);
    const fine = warnAt.every((p, i) => Number.isInteger(p) && p > 0 && p < 100 && (i === 0 || p > warnAt[i - 1]!));
    const { warnAt: _, ...rest } = this.bad();
    this.bad.set(fine ? rest : { ...rest, warnAt: 'whole percentages from 1 to 99 that rise, such as 50, 75' });
    if (fine) this.changed.emit({ ...this.targets(), warnAt });
  }
}
