import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { PLACEHOLDER_NAMES, type TicketWire, umbrellaRoutes, type UpdatePreview } from '@core/desk';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { problemOf } from '../../shell/problem';
import { Toasts } from '../../shell/toasts';
import { UmbrellaState } from './umbrella.state';

const IS_IT_BACK = 'Hello {first name},\n\nwe believe that this works again. Please try it.\n\n{me}';

/** One public update to the chosen members: what each will read is shown before it leaves. */
@Component({
  selector: 'dl-member-update',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="update" (submit)="$event.preventDefault(); preview()">
      <p class="small goes">
        Goes to <b>{{ state.chosen().length }} contacts</b>, each in their own thread. <b>The clients will see this</b>, and none sees
        another's name.
      </p>
      <textarea
        #textBox
        class="in"
        rows="4"
        aria-label="Update that the clients will see"
        placeholder="What can they be told? {first name} is filled for each."
        [value]="text()"
        (input)="type(textBox.value)"
        (keydown.control.enter)="$event.preventDefault(); preview()"
        (keydown.meta.enter)="$event.preventDefault(); preview()"
      ></textarea>
      <p class="small soft fill">
        Fill in:
        @for (name of placeholders; track name) {
          <button type="button" class="btn-link small" (click)="type(text() + '{' + name + '}')">{{ name }}</button>
        }
      </p>
      @if (trouble()) {
        <p class="late small" role="alert">{{ trouble() }}</p>
      }
      @if (shown(); as p) {
        <div class="preview" aria-label="What each will read" role="region" tabindex="0">
          @for (m of p.mails; track m.ticketId) {
            <article [class.wrong]="m.trouble.length">
              <p class="small">
                <b>{{ m.contact }}</b> <span class="soft">{{ m.to }} · {{ m.subject }}</span>
              </p>
              @for (t of m.trouble; track t) {
                <p class="late small">{{ t }}</p>
              }
              <p class="text">{{ m.text }}</p>
            </article>
          }
          @for (m of p.unreachable; track m.ticketId) {
            <p class="late small">#{{ m.number }} has no address and gets nothing.</p>
          }
        </div>
      }
      <div class="foot">
        <label class="small"
          ><input #tickBox type="checkbox" [checked]="asks()" (change)="ask(tickBox.checked)" /> ask each: is it back for you?</label
        >
        <span class="grow"></span>
        @if (shown(); as p) {
          <button type="button" class="btn-link" (click)="shown.set(undefined)">Change it</button>
          <button type="button" class="btn-main" [disabled]="busy() || wrong()" (click)="send()">Send {{ p.mails.length }} mails</button>
        } @else {
          <button class="btn-main" [disabled]="busy() || !text().trim() || !state.chosen().length">
            See what each will read <kbd>ctrl ↵</kbd>
          </button>
        }
      </div>
    </form>
  `,
  styleUrl: './member-update.css',
})
export class MemberUpdate {
  readonly umbrella = input.required<TicketWire>();
  readonly sent = output<void>();
  protected readonly state = inject(UmbrellaState);
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly placeholders = PLACEHOLDER_NAMES;
  protected readonly text = signal('');
  protected readonly asks = signal(false);
  protected readonly busy = signal(false);
  protected readonly trouble = signal('');
  protected readonly shown = signal<UpdatePreview | undefined>(undefined);
  protected readonly wrong = computed(() => this.shown()?.mails.some((m) => m.trouble.length > 0) ?? false);
  private loaded = '';

  constructor() {
    effect(() => {
      const { id } = this.umbrella();
      if (this.loaded === id) return;
      this.loaded = id;
      this.text.set(localStorage.getItem(this.draft()) ?? '');
    });
    // Another choice of members is another set of mails to look at.
    effect(() => {
      this.state.chosen();
      this.shown.set(undefined);
    });
  }

  protected type(text: string): void {
    localStorage.setItem(this.draft(), text);
    this.text.set(text);
    this.shown.set(undefined);
  }

  protected ask(asks: boolean): void {
    this.asks.set(asks);
    if (asks && !this.text().trim()) this.type(IS_IT_BACK);
  }

  protected preview(): void {
    if (!this.text().trim() || this.busy()) return;
    this.api.call(umbrellaRoutes.previewUpdate, this.request()).subscribe({
      next: (shown) => {
        this.shown.set(shown);
        this.trouble.set('');
      },
      error: (fault: unknown) => this.trouble.set(problemOf(fault).detail),
    });
  }

  protected send(): void {
    this.busy.set(true);
    this.api.call(umbrellaRoutes.updateMembers, this.request()).subscribe({
      next: (done) => {
        this.busy.set(false);
        this.type('');
        this.asks.set(false);
        this.toasts.done(`${done.mails} mails leave in ten seconds`, () => this.takeBack(done.id));
        this.sent.emit();
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        this.trouble.set(problemOf(fault).detail);
      },
    });
  }

  private takeBack(updateId: Id<'member_update'>): void {
    this.api.call(umbrellaRoutes.takeBackUpdate, { params: { updateId } }).subscribe({
      next: ({ text }) => {
        this.type(text);
        this.sent.emit();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  private request() {
    return {
      params: { ticketId: this.umbrella().id },
      body: { text: this.text(), memberIds: [...this.state.chosen()], asks: this.asks() },
    };
  }

  private draft(): string {
    return `drumline.draft.update.${this.umbrella().id}`;
  }
}
