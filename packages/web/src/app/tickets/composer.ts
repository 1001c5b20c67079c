import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, effect, ElementRef, inject, input, output, viewChild } from '@angular/core';
import { BehaviorSubject } from 'rxjs';
import { ticketRoutes, type Status, type TicketWire } from '@core/tickets';
import { Api } from '../shell/api';
import { problemOf } from '../shell/problem';
import { Toasts } from '../shell/toasts';

type Mode = 'reply' | 'note';
interface View {
  readonly mode: Mode;
  readonly text: string;
  readonly then: Status | '';
  readonly trouble: string;
  readonly busy: boolean;
}

/** What the client will see, and what they never see, cannot be confused: words, colour, edge and button differ. */
@Component({
  selector: 'dl-composer',
  imports: [AsyncPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let v = view$ | async;
    @if (v) {
      <form class="composer" [class.note]="v.mode === 'note'" (submit)="send($event)">
        <div class="tabs" role="tablist">
          <button type="button" role="tab" [attr.aria-selected]="v.mode === 'reply'" (click)="mode('reply')">Reply to {{ first() }}</button>
          <button type="button" role="tab" [attr.aria-selected]="v.mode === 'note'" (click)="mode('note')">Inside note</button>
        </div>
        <p class="small goes">
          @if (v.mode === 'reply') {
            Goes to <b>{{ ticket().contact }}</b> at {{ ticket().contactEmail }}. <b>The client will see this.</b>
          } @else {
            Stays inside. <b>The client never sees this.</b>
          }
        </p>
        <textarea
          #box
          rows="4"
          [attr.aria-label]="v.mode === 'reply' ? 'Reply that the client will see' : 'Inside note that the client never sees'"
          [value]="v.text"
          (input)="type($any($event.target).value)"
          (keydown.control.enter)="send($event)"
          (keydown.meta.enter)="send($event)"
        ></textarea>
        @if (v.trouble) {
          <p class="late small" role="alert">{{ v.trouble }}</p>
        }
        <div class="foot">
          @if (v.mode === 'reply') {
            <label class="small soft"
              >then
              <select class="in" (change)="patch({ then: $any($event.target).value })">
                <option value="" [selected]="!v.then">as it is</option>
                @for (status of ['underway', 'on hold', 'resolved']; track status) {
                  <option [value]="status" [selected]="v.then === status">
                    {{ status === 'on hold' ? 'on hold for the client' : status }}
                  </option>
                }
              </select>
            </label>
          }
          <span class="grow"></span>
          <button [class]="v.mode === 'reply' ? 'btn-main' : 'btn-plain'" [disabled]="v.busy || !v.text.trim()">
            {{ v.mode === 'reply' ? 'Send to client' : 'Keep inside' }} <kbd>ctrl ↵</kbd>
          </button>
        </div>
      </form>
    }
  `,
  styles: `
    .composer {
      border: 1px solid var(--run);
      border-left: 4px solid var(--run);
      border-radius: 4px;
      background: var(--panel);
    }
    .composer.note {
      border: 1px dashed var(--field);
      border-left: 4px dotted var(--ink-soft);
      background: var(--paper);
    }
    .tabs {
      display: flex;
      gap: 16px;
      padding: 0 12px;
      border-bottom: 1px solid var(--rule);
    }
    .tabs button {
      border: 0;
      background: none;
      font: inherit;
      color: var(--ink-soft);
      padding: 6px 0 5px;
      border-bottom: 2px solid transparent;
      cursor: pointer;
    }
    .tabs button[aria-selected='true'] {
      color: var(--run);
      font-weight: 700;
      border-bottom-color: var(--run);
    }
    .note .tabs button[aria-selected='true'] {
      color: var(--ink);
      border-bottom-color: var(--ink-soft);
    }
    .goes {
      padding: 6px 12px 0;
      color: var(--run);
    }
    .note .goes {
      color: var(--ink-soft);
      font-style: italic;
    }
    textarea {
      width: 100%;
      border: 0;
      background: transparent;
      padding: 6px 12px;
      font: inherit;
      color: var(--ink);
      resize: vertical;
      outline-offset: -3px;
      display: block;
    }
    .note textarea {
      font-style: italic;
    }
    .late {
      padding: 0 12px 4px;
    }
    .foot {
      display: flex;
      align-items: center;
      gap: 12px;
      padding: 8px 12px;
      border-top: 1px solid var(--rule);
    }
    .foot label {
      display: flex;
      gap: 8px;
      align-items: center;
    }
    .foot select {
      width: auto;
    }
  `,
})
export class Composer {
  readonly ticket = input.required<TicketWire>();
  readonly sent = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly box = viewChild<ElementRef<HTMLTextAreaElement>>('box');
  private readonly view = new BehaviorSubject<View>({ mode: 'reply', text: '', then: '', trouble: '', busy: false });
  protected readonly view$ = this.view.asObservable();
  private loaded = '';

  constructor() {
    effect(() => {
      const { id } = this.ticket();
      if (this.loaded === id) return;
      this.loaded = id;
      this.view.next({ mode: 'reply', text: this.kept('reply'), then: '', trouble: '', busy: false });
    });
  }

  protected first(): string {
    return (this.ticket().contact ?? 'the sender').split(' ')[0]!;
  }

  focus(mode: Mode): void {
    this.mode(mode);
    setTimeout(() => this.box()?.nativeElement.focus());
  }

  protected mode(mode: Mode): void {
    this.patch({ mode, text: this.kept(mode), trouble: '' });
  }

  protected type(text: string): void {
    localStorage.setItem(this.draft(this.view.value.mode), text);
    this.patch({ text });
  }

  protected patch(part: Partial<View>): void {
    this.view.next({ ...this.view.value, ...part });
  }

  protected send(event: Event): void {
    event.preventDefault();
    const { mode, text, busy } = this.view.value;
    if (busy || !text.trim()) return;
    this.patch({ busy: true, trouble: '' });
    if (mode === 'reply') this.reply(text);
    else this.note(text);
  }

  private reply(text: string): void {
    const t = this.ticket();
    const newest = t.messages.filter((m) => m.visibility === 'public' && !m.takenBack).at(-1);
    this.api
      .call(ticketRoutes.replyToTicket, {
        params: { ticketId: t.id },
        body: { text, cc: [], then: this.view.value.then || null, seenMessageId: newest?.id ?? null },
      })
      .subscribe({
        next: (done) => {
          this.clear('reply');
          this.toasts.done('Leaves in ten seconds', () => this.takeBack(done.id));
          this.sent.emit();
        },
        error: (fault: unknown) => this.patch({ busy: false, trouble: problemOf(fault).detail }),
      });
  }

  private note(text: string): void {
    this.api.call(ticketRoutes.addNote, { params: { ticketId: this.ticket().id }, body: { text } }).subscribe({
      next: () => {
        this.clear('note');
        this.sent.emit();
      },
      error: (fault: unknown) => this.patch({ busy: false, trouble: problemOf(fault).detail }),
    });
  }

  takeBack(messageId: string): void {
    this.api.call(ticketRoutes.takeBackReply, { params: { messageId } }).subscribe({
      next: ({ text }) => {
        localStorage.setItem(this.draft('reply'), text);
        this.mode('reply');
        this.sent.emit();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  private clear(mode: Mode): void {
    localStorage.removeItem(this.draft(mode));
    this.patch({ text: '', then: '', busy: false });
  }

  private kept(mode: Mode): string {
    return localStorage.getItem(this.draft(mode)) ?? '';
  }

  private draft(mode: Mode): string {
    return `drumline.draft.${mode}.${this.ticket().id}`;
  }
}
