import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';
import { EmptyNote } from '../ui/empty-note';

@Component({
  selector: 'dl-not-here',
  imports: [RouterLink, EmptyNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<dl-empty-note title="There is no such page"
    >The address may be cut short. <a routerLink="/">Go to your first page</a>, or press <kbd>/</kbd> to find what you look
    for.</dl-empty-note
  >`,
})
export class NotHere {}
