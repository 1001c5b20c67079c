import { Location } from '@angular/common';
import { inject, Injectable } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { isAddressNumber, type NumberedParam } from '@core/ground';

/** What is shown: where pages of its kind are, its number, and its name. */
export interface Shown {
  /** Such as `/tickets`. */
  readonly under: string;
  /** The parameter that names it in a path, and the number that people call it by. */
  readonly param: NumberedParam;
  readonly number: string;
  readonly name: string;
}

/** An address that can be passed on, and a window that is called by what is in it. */
@Injectable({ providedIn: 'root' })
export class PageAddress {
  private readonly location = inject(Location);
  private readonly title = inject(Title);

  /** Of a page of one record, once that is read; an address by its id becomes one by its number. */
  show({ under, param, number, name }: Shown): void {
    this.title.setTitle(`${name} · Drumline`);
    if (!isAddressNumber(param, number)) return;
    const [, was, rest] = /^([^?#]*)(.*)$/.exec(this.location.path(true))!;
    // The router finds its own state there when people go back.
    if (was !== `${under}/${number}`) this.location.replaceState(`${under}/${number}${rest}`, '', this.location.getState());
  }
}
