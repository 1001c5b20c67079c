import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, effect, ElementRef, inject, input, output, signal, viewChild } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { BehaviorSubject } from 'rxjs';
import { type ActionTime, type Status, messageRoutes, type TicketWire } from '@core/desk';
import type { Id } from '@core/ground';
import { ComposerFiles } from '../../ground';
import { ActionTimeStrip } from '../action-time/action-time';
import { Api } from '../../shell/api';
import { problemOf } from '../../shell/problem';
import { Toasts } from '../../shell/toasts';
import { CannedMenu } from '../canned/canned-menu';
import { MentionList } from '../followers/mention-list';
import { addressesOf, wordsOf } from './composer-words';
import { TicketState } from './ticket.state';
import { MemberUpdate } from '../umbrellas/member-update';
import { picked } from '../../ui/picked';

type Mode = 'reply' | 'note' | 'update';
interface View {
  readonly mode: Mode;
  readonly text: string;
  readonly then: Status | '';
  /** Who else gets the reply, as typed: addresses with commas between. */
  readonly cc: string;
  readonly trouble: string;
  readonly busy: boolean;
}

/** What the client will see, and what they never see, cannot be confused: words, colour, edge and button differ. */
@Component({
  selector: 'dl-composer',
  imports: [ActionTimeStrip, AsyncPipe, CannedMenu, ComposerFiles, MemberUpdate, MentionList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let v = view$ | async;
    @if (v) {
      <div
        class="composer"
        [class.note]="v.mode === 'note'"
        (dragover)="v.mode !== 'update' && $event.preventDefault()"
        (drop)="takeFiles($event, $event.dataTransfer)"
      >
        <div class="tabs" role="tablist">
          @if (ticket().isUmbrella) {
            <button type="button" role="tab" [attr.aria-selected]="v.mode === 'update'" (click)="mode('update')">
              Update to the members
            </button>
          } @else {
            <button type="button" role="tab" [attr.aria-selected]="v.mode === 'reply'" (click)="mode('reply')">
              Reply to {{ first() }}
            </button>
          }
          <button type="button" role="tab" [attr.aria-selected]="v.mode === 'note'" (click)="mode('note')">Inside note</button>
        </div>
        @if (v.mode === 'update') {
          <dl-member-update [umbrella]="ticket()" (sent)="sent.emit()" />
        } @else {
          @if (v.mode === 'reply') {
            <dl-canned-menu class="canned" [ticket]="ticket()" [text]="v.text" (chosen)="putIn($event)" />
          }
          <form (submit)="send($event)">
            <p class="small goes">
              @if (v.mode === 'reply') {
                Goes to <b>{{ ticket().contact }}</b> at {{ ticket().contactEmail }}. <b>The client will see this.</b>
                @if (ticket().contactTrouble; as trouble) {
                  <span class="late">Mail to this address did not arrive: {{ trouble }}.</span>
                }
                <label class="copies"
                  >Copies
                  <input
                    #textBox
                    class="in"
                    type="text"
                    aria-label="Copies, addresses with commas between"
                    [value]="v.cc"
                    (input)="patch({ cc: textBox.value })"
                    placeholder="nobody"
                /></label>
              } @else {
                Stays inside. <b>The client never sees this.</b>
              }
            </p>
            @if (v.mode === 'note') {
              <dl-mention-list [people]="people()" [before]="before()" (chosen)="mention($event)" />
            }
            <textarea
              #box
              rows="4"
              [attr.aria-label]="v.mode === 'reply' ? 'Reply that the client will see' : 'Inside note that the client never sees'"
              [value]="v.text"
              (input)="type(box.value)"
              (keydown)="key($event)"
              (paste)="takeFiles($event, $event.clipboardData)"
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
                  <select #selectBox class="in" (change)="patch({ then: picked(thens, selectBox.value) })">
                    <option value="" [selected]="!v.then">as it is</option>
                    @for (status of thens.slice(1); track status) {
                      <option [value]="status" [selected]="v.then === status">
                        {{ status === 'on hold' ? 'on hold for the client' : status }}
                      </option>
                    }
                  </select>
                </label>
              }
              <dl-composer-files [ticketId]="ticket().id" (changed)="uploadIds = $event" />
              @if (v.text.trim()) {
                <dl-action-time [workId]="ticket().id" [action]="v.mode" />
              }
              <span class="grow"></span>
              <button [class]="v.mode === 'reply' ? 'btn-main' : 'btn-plain'" [disabled]="v.busy || !v.text.trim()">
                {{ v.mode === 'reply' ? 'Send to client' : 'Keep inside' }} <kbd>ctrl ↵</kbd>
              </button>
            </div>
          </form>
        }
      </div>
    }
  `,
  styleUrl: './composer.css',
})
export class Composer {
  readonly ticket = input.required<TicketWire>();
  readonly sent = output<void>();
  /** Whether something stands in it that is not sent. */
  readonly writing = output<boolean>();
  protected readonly people = toSignal(inject(TicketState).people$, { initialValue: [] });
  private readonly files = viewChild(ComposerFiles);
  private readonly mentions = viewChild(MentionList);
  private readonly time = viewChild(ActionTimeStrip);
  /** The text up to the caret, where somebody may be named. */
  protected readonly before = signal('');
  protected uploadIds: readonly Id<'upload'>[] = [];
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly box = viewChild<ElementRef<HTMLTextAreaElement>>('box');
  protected readonly picked = picked;
  /** What may come of a reply; nothing leaves the status as it is. */
  protected readonly thens = ['', 'underway', 'on hold', 'resolved'] as const;
  private readonly view = new BehaviorSubject<View>({ mode: 'reply', text: '', then: '', cc: '', trouble: '', busy: false });
  protected readonly view$ = this.view.asObservable();
  private loaded = '';

  constructor() {
    effect(() => {
      const { id } = this.ticket();
      if (this.loaded === id) return;
      this.loaded = id;
      const mode = this.outward();
      this.view.next({ mode, text: this.kept(mode), then: '', cc: this.ticket().copies.join(', '), trouble: '', busy: false });
    });
  }

  /** An umbrella has no contact of its own: its members are written to by an update to all. */
  private outward(): Mode {
    return this.ticket().isUmbrella ? 'update' : 'reply';
  }

  protected readonly first = () => (this.ticket().contact ?? 'the sender').split(' ')[0]!;

  focus(mode: Mode): void {
    this.mode(mode);
    setTimeout(() => this.box()?.nativeElement.focus());
  }

  protected mode(mode: Mode): void {
    if (mode !== 'note') mode = this.outward();
    this.patch({ mode, text: this.kept(mode), trouble: '' });
  }

  protected type(text: string): void {
    localStorage.setItem(this.draft(this.view.value.mode), text);
    this.patch({ text });
    this.before.set(text.slice(0, this.box()?.nativeElement.selectionStart ?? text.length));
    this.writing.emit(text.trim() !== '');
  }

  protected key(event: KeyboardEvent): void {
    this.mentions()?.key(event);
  }

  /** Puts the whole name where the part of one stands. */
  protected mention(name: string): void {
    const start = this.before().replace(/@[^@]*$/, `@${name} `);
    const text = start + this.view.value.text.slice(this.before().length);
    // At once, since a fast hand types on before the page is drawn anew.
    const box = this.box()!.nativeElement;
    box.value = text;
    box.setSelectionRange(start.length, start.length);
    this.type(text);
    this.before.set('');
  }

  protected takeFiles(event: Event, data: DataTransfer | null): void {
    if (this.files()?.take(data)) event.preventDefault();
  }

  /** Puts a canned reply in after what stands there. */
  protected putIn(text: string): void {
    const was = this.view.value.text.trimEnd();
    this.type(was ? `${was}\n\n${text}` : text);
    setTimeout(() => this.box()?.nativeElement.focus());
  }

  protected patch(part: Partial<View>): void {
    this.view.next({ ...this.view.value, ...part });
  }

  protected send(event: Event): void {
    event.preventDefault();
    const { mode, text, busy } = this.view.value;
    if (busy || !text.trim()) return;
    if (this.files()?.waiting()) return this.patch({ trouble: 'A file is still on the way. Send it in a moment.' });
    const time = this.time() ? this.time()!.take() : null;
    if (time === undefined) return;
    this.patch({ busy: true, trouble: '' });
    if (mode === 'reply') this.reply(text, time);
    else this.note(text, time);
  }

  private reply(text: string, time: ActionTime | null): void {
    const t = this.ticket();
    const newest = t.messages.filter((m) => m.visibility === 'public' && !m.takenBack).at(-1);
    this.api
      .call(messageRoutes.replyToTicket, {
        params: { ticketId: t.id },
        body: {
          text,
          cc: addressesOf(this.view.value.cc),
          then: this.view.value.then || null,
          seenMessageId: newest?.id ?? null,
          uploadIds: [...this.uploadIds],
          time,
        },
      })
      .subscribe({
        next: (done) => {
          this.clear('reply');
          this.toasts.done('Leaves in ten seconds', () => this.takeBack(done.id));
          this.sent.emit();
        },
        error: (fault: unknown) => this.refused(fault),
      });
  }

  private note(text: string, time: ActionTime | null): void {
    this.api
      .call(messageRoutes.addNote, { params: { ticketId: this.ticket().id }, body: { text, uploadIds: [...this.uploadIds], time } })
      .subscribe({
        next: () => {
          this.clear('note');
          this.sent.emit();
        },
        error: (fault: unknown) => this.refused(fault),
      });
  }

  private refused(fault: unknown): void {
    this.time()?.refused(problemOf(fault).fields);
    this.patch({ busy: false, trouble: wordsOf(fault) });
  }

  takeBack(messageId: Id<'message'>): void {
    this.api.call(messageRoutes.takeBackReply, { params: { messageId } }).subscribe({
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
    this.files()?.clear();
    this.time()?.clear();
    this.writing.emit(false);
    this.patch({ text: '', then: '', busy: false });
  }

  private kept(mode: Mode): string {
    return localStorage.getItem(this.draft(mode)) ?? '';
  }

  private draft(mode: Mode): string {
    return `drumline.draft.${mode}.${this.ticket().id}`;
  }
}
