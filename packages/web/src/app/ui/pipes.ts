import { inject, Pipe, type PipeTransform } from '@angular/core';
import { type Currency, formatMinutes, formatMoney, formatSeconds, formatUnitPrice, type Money } from '@core/ground';
import { Session } from '../shell/session';
import { clockTime, longDay, nearTime, plainDate } from './time-format';

@Pipe({ name: 'money' })
export class MoneyPipe implements PipeTransform {
  transform(amount: Money | null | undefined): string {
    return amount ? formatMoney(amount) : '';
  }
}

@Pipe({ name: 'unitPrice' })
export class UnitPricePipe implements PipeTransform {
  transform(price: string, currency: Currency): string {
    return formatUnitPrice(price, currency);
  }
}

@Pipe({ name: 'minutes' })
export class MinutesPipe implements PipeTransform {
  transform(minutes: number): string {
    return formatMinutes(minutes);
  }
}

@Pipe({ name: 'seconds' })
export class SecondsPipe implements PipeTransform {
  transform(seconds: number): string {
    return formatSeconds(seconds);
  }
}

/** An RFC 3339 instant in the provider's zone: near, as a time of day, or as a long day. */
@Pipe({ name: 'at' })
export class AtPipe implements PipeTransform {
  private readonly session = inject(Session);

  transform(instant: string | null, form: 'near' | 'time' | 'day' = 'near', zone?: string | null): string {
    if (!instant) return '';
    const at = Date.parse(instant);
    const where = zone ?? this.session.zone;
    if (form === 'time') return clockTime(at, where);
    return form === 'day' ? longDay(at, where) : nearTime(at, this.session.now(), where);
  }
}

@Pipe({ name: 'date' })
export class DatePipe implements PipeTransform {
  transform(date: string): string {
    return plainDate(date);
  }
}
