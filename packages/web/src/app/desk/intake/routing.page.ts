import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { forkJoin, startWith, Subject, map } from 'rxjs';
import { houseRoutes, type HouseWire } from '@core/house';
import {
  type Assigns,
  ASSIGNS,
  categoryFormSchema,
  type CategoryWire,
  DESK_LINES,
  type DeskLine,
  INSIDE_REACHES,
  type InsideReach,
  intakeRoutes,
  type Line,
  deskSettingsRoutes,
  type DeskSettingsWire,
} from '@core/desk';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import type { Option } from '../../ui/field';
import { loading } from '../../ui/loading';
import { RecordFormPanel, type Line as FormLine, type RecordForm } from '../../ui/record-form';
import { StateNote } from '../../ui/state-note';
import { picked } from '../../ui/picked';
import { SetupPart } from '../../ui/setup-part';

type LineOfDesk = Pick<DeskLine, 'deskId' | 'line'>;

interface Routing {
  readonly desks: HouseWire['desks'];
  readonly reaches: DeskSettingsWire['reaches'];
  readonly lines: readonly DeskLine[];
  readonly teams: readonly Option[];
  readonly categories: readonly CategoryWire[];
  readonly skills: readonly Option[];
}

/** What tickets are about, who works which line of a desk, and whom routing assigns. */
@Component({
  selector: 'dl-routing-page',
  imports: [SetupPart, AsyncPipe, RecordFormPanel, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './routing.page.html',
  styleUrl: './routing.page.css',
})
export class RoutingPage {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly picked = picked;
  protected readonly assigns = ASSIGNS;
  protected readonly deskLines = DESK_LINES;
  protected readonly reaches = INSIDE_REACHES;
  protected readonly form = signal<{ readonly form: RecordForm; readonly lines: readonly FormLine[]; readonly key: string } | undefined>(
    undefined,
  );
  protected readonly now$ = loading(this.again.pipe(startWith(undefined)), () =>
    forkJoin([
      this.api.call(houseRoutes.getHouse, {}),
      this.api.call(intakeRoutes.listDeskLines, {}),
      this.api.call(intakeRoutes.listCategories, {}),
      this.api.call(deskSettingsRoutes.getDeskSettings, {}),
    ]).pipe(
      map(([house, { lines, teams }, { categories, skills }, { reaches }]): Routing => ({
        desks: house.desks,
        reaches,
        lines,
        teams: teams.map((t) => ({ value: t.id, label: t.name })),
        categories,
        skills: skills.map((s) => ({ value: s.id, label: s.name })),
      })),
    ),
  );

  protected line(now: Routing, deskId: Id<'desk'>, line: Line): DeskLine | undefined {
    return now.lines.find((l) => l.deskId === deskId && l.line === line);
  }

  protected reachOf(now: Routing, deskId: Id<'desk'>): InsideReach | undefined {
    return now.reaches.find((r) => r.deskId === deskId)?.reach;
  }

  /** A line without a team is not staffed, and nothing is routed there. */
  protected setTeam(now: Routing, { deskId, line }: LineOfDesk, teamId: Id<'team'>): void {
    const rest = now.lines.filter((l) => l.deskId !== deskId || l.line !== line);
    const assigns = this.line(now, deskId, line)?.assigns ?? 'nobody';
    this.saveLines(now, teamId ? [...rest, { deskId, line, teamId, assigns }] : rest);
  }

  protected setAssigns(now: Routing, { deskId, line }: LineOfDesk, assigns: Assigns): void {
    this.saveLines(
      now,
      now.lines.map((l) => (l.deskId === deskId && l.line === line ? { ...l, assigns } : l)),
    );
  }

  protected setReach(deskId: Id<'desk'>, reach: InsideReach): void {
    this.api.call(intakeRoutes.setInsideReach, { params: { deskId }, body: { reach } }).subscribe({
      next: () => {
        this.toasts.done('Saved; it holds from now on');
        this.again.next();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  private saveLines(now: Routing, lines: readonly DeskLine[], undo = true): void {
    this.api.call(intakeRoutes.setDeskLines, { body: { lines: [...lines] } }).subscribe({
      next: () => {
        this.toasts.done('Saved; it holds from now on', undo ? () => this.saveLines(now, now.lines, false) : undefined);
        this.again.next();
      },
      error: (fault: unknown) => {
        this.toasts.trouble(fault);
        this.again.next();
      },
    });
  }

  protected add(now: Routing, parentId: string | null): void {
    this.open(now, undefined, parentId);
  }

  protected edit(now: Routing, category: CategoryWire): void {
    this.open(now, category, category.parentId);
  }

  private open(now: Routing, category: CategoryWire | undefined, parentId: string | null): void {
    const parents = now.categories.filter((c) => c.parentId === null && c.id !== category?.id);
    this.form.set({
      key: category?.id ?? `new.${parentId}`,
      lines: [
        { name: 'name', label: 'Name' },
        {
          name: 'parentId',
          label: 'Under',
          kind: 'choice',
          none: 'the first level',
          options: parents.map((p) => ({ value: p.id, label: p.name })),
        },
        { name: 'skillId', label: 'Asks for the skill', kind: 'choice', none: 'none', options: now.skills },
      ],
      form: {
        schema: categoryFormSchema,
        initial: { name: category?.name ?? '', parentId, skillId: category?.skillId ?? null },
        draft: `category.${category?.id ?? 'new'}`,
        does: category ? 'Save' : 'Add it',
        ...(category ? { version: category.version } : {}),
        save: (body, version) =>
          category
            ? this.api.call(intakeRoutes.editCategory, { params: { categoryId: category.id }, version: version!, body })
            : this.api.call(intakeRoutes.addCategory, { body }),
      },
    });
  }

  protected archive(category: CategoryWire): void {
    this.api.call(intakeRoutes.archiveCategory, { params: { categoryId: category.id }, version: category.version }).subscribe({
      next: () => {
        this.toasts.done(`${category.name} is put away; tickets keep it`);
        this.again.next();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected done(): void {
    this.form.set(undefined);
    this.again.next();
  }
}
