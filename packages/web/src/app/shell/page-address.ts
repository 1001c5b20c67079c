import { Location } from '@angular/common';
import { inject, Injectable } from '@angular/core';
import { Title } from '@angular/platform-browser';

/** What is shown: the address at which people find it again, and its name. */
export interface Shown {
  /** Such as `/tickets/4479`. */
  readonly path: string;
  readonly name: string;
}

/** An address that can be passed on, and a window that is called by what is in it. */
@Injectable({ providedIn: 'root' })
export class PageAddress {
  private readonly location = inject(Location);
  private readonly title = inject(Title);

  /** Of a page of one record, once that is read; an address by its id becomes one by its number. */
  show({ path, name }: Shown): void {
    this.title.setTitle(`${name} · Drumline`);
    const [, was, rest] = /^([^?#]*)(.*)$/.exec(this.location.path(true))!;
    if (was !== path) this.location.replaceState(path + rest);
  }
}
