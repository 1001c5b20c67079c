import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { Observable } from 'rxjs';
import { Toasts } from '../../shell/toasts';
import { actOnMany } from './act-on-many';
import type { ListState } from './list-state';

interface Archivable {
  readonly id: string;
  readonly version: number;
  readonly archived: boolean;
}

/** Comes up when rows are chosen: puts them away, or brings them back, with undo. */
@Component({
  selector: 'dl-archive-bar',
  imports: [AsyncPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if ((list().chosen$ | async)?.size; as n) {
      <p class="bulk wash">
        <b>{{ n }} chosen</b>
        <button type="button" class="btn-plain" (click)="put(true)">Put away</button>
        <button type="button" class="btn-plain" (click)="put(false)">Bring back</button>
      </p>
    }
  `,
})
export class ArchiveBar<Row extends Archivable> {
  readonly list = input.required<ListState<Row>>();
  readonly archive = input.required<(id: string, version: number, archived: boolean) => Observable<{ readonly version: number }>>();
  private readonly toasts = inject(Toasts);

  protected put(archived: boolean): void {
    const archive = this.archive();
    actOnMany({
      rows: this.list().chosenRows.filter((row) => row.archived !== archived),
      act: (row) => archive(row.id, row.version, archived),
      undo: (row, version) => archive(row.id, version, !archived),
      words: (n) => `${n} ${archived ? 'put away' : 'brought back'}`,
      toasts: this.toasts,
      after: () => this.list().retry(),
    });
  }
}
