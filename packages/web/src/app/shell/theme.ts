import { Injectable } from '@angular/core';

const KEY = 'drumline.theme';

/** Light or dark colours; the machine's wish until a person chooses. */
@Injectable({ providedIn: 'root' })
export class Theme {
  dark = (localStorage.getItem(KEY) ?? (matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light')) === 'dark';

  constructor() {
    this.apply();
  }

  toggle(): void {
    this.dark = !this.dark;
    localStorage.setItem(KEY, this.dark ? 'dark' : 'light');
    this.apply();
  }

  private apply(): void {
    document.documentElement.dataset['theme'] = this.dark ? 'dark' : 'light';
  }
}
