import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Router } from '@angular/router';
import { Session } from './session';

/** Where each role's day begins. */
const FIRST_PAGE = {
  'service manager': '/intake',
  dispatcher: '/dispatch',
  technician: '/my-time',
  billing: '/charges',
  'account manager': '/clients',
  administrator: '/intake',
} as const;

@Component({ selector: 'dl-home', changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
export class Home {
  constructor() {
    const me = inject(Session).current;
    void inject(Router).navigateByUrl(me ? FIRST_PAGE[me.person.role] : '/enter', { replaceUrl: true });
  }
}
