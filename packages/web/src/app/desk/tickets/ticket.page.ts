import { moveWords } from './move-words';
import { sayDelivery, sayHow, sayLeftOut } from './mail-words';
import { AsyncPipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  ChangeDetectorRef,
  Component,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import {
  type ActionTime,
  type ClockWire,
  type HoldReason,
  isEnded,
  type OwnStatus,
  type Status,
  STATUS_MOVES,
  type TicketWire,
  WAITS_FOR,
} from '@core/desk';
import type { PersonWire } from '@core/house';
import type { Id } from '@core/ground';
import { Session } from '../../shell/session';
import { Shortcuts } from '../../shell/shortcuts';
import { Timers } from '../../shell/timers';
import { ClockStrip, clockName, clockWords } from '../../ui/clock-strip';
import { AtPipe, MinutesPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { Together } from '../../ui/together';
import { Why } from '../../ui/why';
import { ActionTimeStrip } from '../action-time/action-time';
import { ResolveTime } from '../action-time/resolve-time';
import { TimeForm } from '../action-time/time-form';
import { TicketSection } from './ticket-sections';
import { FlatFeePanel } from '../flat-fees/ticket-fee';
import { RecordFormPanel } from '../../ui/record-form';
import { MoveClient } from '../intake/move-client';
import { Members } from '../umbrellas/members';
import { UmbrellaState } from '../umbrellas/umbrella.state';
import { UnderUmbrella } from '../umbrellas/under-umbrella';
import { OthersHere } from '../presence/others-here';
import { AroundTicket } from '../relations/around-ticket';
import { OwnFields } from './ticket-fields';
import { BeforeMoving, type Settled } from './before-moving';
import { Checklist } from './checklist';
import { ticketForms, type TicketForm } from './ticket-forms';
import { Composer } from './composer';
import { MessageBody } from '../messages/message-body';
import { TicketNext } from './ticket-next';
import { TicketSorting } from './ticket-sorting';
import { hasEarlier } from './earlier-talk';
import { conversationLines, type ConversationLine } from './conversation-lines';
import type { Moving } from './ticket-command';
import { TicketState } from './ticket.state';

/** The conversation in one column, the facts at its side, what to do next on top. */
@Component({
  selector: 'dl-ticket-page',
  imports: [
    ActionTimeStrip,
    AsyncPipe,
    RouterLink,
    ClockStrip,
    AtPipe,
    MinutesPipe,
    StateNote,
    Why,
    MessageBody,
    Composer,
    TimeForm,
    FlatFeePanel,
    AroundTicket,
    BeforeMoving,
    OthersHere,
    OwnFields,
    TicketNext,
    TicketSorting,
    Checklist,
    RecordFormPanel,
    Members,
    MoveClient,
    ResolveTime,
    TicketSection,
    Together,
    UnderUmbrella,
  ],
  providers: [TicketState, UmbrellaState],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ticket.page.html',
  styleUrl: './ticket.page.css',
})
export class TicketPage {
  readonly ticketId = input.required<Id<'ticket'>>();
  protected readonly state = inject(TicketState);
  protected readonly session = inject(Session);
  protected readonly timers = inject(Timers);
  private readonly composer = viewChild(Composer);
  private readonly fee = viewChild(FlatFeePanel);
  private readonly fields = viewChild(OwnFields);
  private readonly talk = viewChild<ElementRef<HTMLElement>>('talk');
  private readonly callTime = viewChild<ActionTimeStrip>('callTime');
  private readonly resolveTime = viewChild(ResolveTime);
  /** Resolving asks for its time. */
  protected timing = false;
  private shown = '';
  protected showStory = false;
  /** On a phone one of both is shown at a time. */
  protected shows: 'talk' | 'facts' = 'talk';
  /** Something stands in the composer: others who look at the ticket see it. */
  protected writing = false;
  protected panel: 'time' | undefined;
  /** One small form is open at a time: a call, a waiver, what was done, something to do. */
  protected small: (TicketForm & { readonly name: string }) | undefined;
  /** The move that something stands in the way of. */
  protected barred: Status | undefined;
  protected holdFor: HoldReason | null = null;
  protected ownStatus: string | null = null;
  protected readonly waitsFor = WAITS_FOR;
  protected joining = false;
  protected moving = false;
  private readonly forms = ticketForms();
  private readonly changes = inject(ChangeDetectorRef);
  protected holding = false;

  constructor() {
    effect(() => this.state.open(this.ticketId()));
    this.state.ticket$.pipe(takeUntilDestroyed()).subscribe((t) => {
      if (t.is !== 'there') return;
      this.showNewest(t.value);
      if (isEnded(t.value.status)) this.timing = false;
    });
    const [keys, destroyed, router] = [inject(Shortcuts), inject(DestroyRef), inject(Router)];
    keys.register(this, [
      { keys: 'r', what: 'reply to the client' },
      { keys: 'i', what: 'inside note' },
      { keys: 'c', what: 'write down a call' },
      { keys: 'g', what: 'put under an umbrella' },
      { keys: 'h', what: 'hand over to another line or desk' },
      { keys: 't', what: 'start the timer' },
      { keys: 'l', what: 'log time' },
      { keys: 'Esc', what: 'back to the list' },
    ]);
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe((event) => {
      if (event.key === 'r' || event.key === 'i') this.composer()?.focus(event.key === 'r' ? 'reply' : 'note');
      else if (event.key === 'h' && this.state.current && this.session.may('tickets.work')) {
        this.open('handOver', this.state.current);
        this.state.retry();
      } else if (event.key === 'g') {
        const t = this.state.current;
        this.joining = Boolean(t && !t.isUmbrella && !t.umbrella && this.session.may('tickets.work'));
        this.state.retry();
      } else if (event.key === 'c') {
        if (this.state.current) this.open('call', this.state.current);
        this.state.retry();
      } else if (event.key === 't') this.timers.start(this.state.current?.id ?? this.ticketId());
      else if (event.key === 'l') {
        this.panel = 'time';
        this.state.retry();
      } else if (event.key === 'Escape') void router.navigate(['/tickets']);
      else return;
      event.preventDefault();
    });
  }

  protected open(name: 'call' | 'waive' | 'resolution' | 'handOver', t: TicketWire): void {
    const form = name === 'call' ? this.forms.call(t, () => (this.callTime() ? this.callTime()!.take() : null)) : this.forms[name](t);
    this.small = this.small?.name === name ? undefined : { name, ...form };
  }

  protected openToDo(t: TicketWire, people: readonly PersonWire[]): void {
    this.small = { name: 'to do', ...this.forms.toDo(t, people) };
  }

  /** A ticket opens at its newest message; later ones never move what is being read. An umbrella opens at its members. */
  private showNewest(t: TicketWire): void {
    if (this.shown === t.id) return;
    this.shown = t.id;
    if (t.kind !== 'unsorted' && !isEnded(t.status)) this.timers.startByItself(t.id);
    if (!t.isUmbrella)
      setTimeout(() => {
        const talk = this.talk()?.nativeElement;
        if (talk) talk.scrollTop = talk.scrollHeight;
      });
  }

  protected openWho(t: TicketWire): void {
    this.forms.who(t).subscribe((form) => {
      this.small = { name: 'who', ...form };
      this.state.retry();
    });
  }

  /** A merge offers the open tickets of the same client. */
  protected openMerge(t: TicketWire): void {
    this.state.others(t).subscribe((others) => {
      this.small = { name: 'merge', ...this.forms.merge(t, others) };
      this.state.retry();
    });
  }

  /** A move asked for; first it shows what stands in its way. */
  protected move(to: Status, t: TicketWire, { holdReason = null, ownStatusId = null }: Moving = {}): void {
    this.holdFor = holdReason;
    this.ownStatus = ownStatusId;
    this.barred = t.obstacles.some((o) => o.move === to) ? to : undefined;
    if (this.barred) return;
    if (to !== 'resolved') return this.state.setStatus(to, { holdReason, ownStatusId });
    this.state.asksTime('resolve').subscribe((asks) => {
      if (!asks) return this.state.setStatus(to, { holdReason, ownStatusId });
      this.timing = true;
      this.state.retry();
    });
  }

  protected resolve(time: ActionTime | null): void {
    this.state.setStatus('resolved', { ownStatusId: this.ownStatus, time }, (fields) => this.resolveTime()?.refused(fields) ?? true);
  }

  /** Holds for a reason, or moves to a status under the house's own name. */
  protected hold(chosen: string, t: TicketWire, statuses: readonly OwnStatus[]): void {
    const own = statuses.find((s) => s.id === chosen);
    const holdReason = own ? own.waitsFor : (chosen as HoldReason);
    this.move(own?.standsFor ?? 'on hold', t, { holdReason, ownStatusId: own?.id ?? null });
    this.state.retry();
  }

  protected settle(what: Settled, t: TicketWire): void {
    if (what === 'fields') this.fields()?.open.set(true);
    else if (what === 'contact' || what === 'name asset') this.openWho(t);
    else if (what === 'time') this.panel = 'time';
    else if (what === 'fee') this.fee()?.openResult();
    else if (what === 'reply') this.composer()?.focus('reply');
    else if (what === 'asset') this.state.edit({ assetId: null }, 'The asset is taken off');
    else this.open(what, t);
  }

  /** The ticket on paper: the conversation and the facts, without what is for the screen. */
  protected print(): void {
    window.print();
  }

  protected setWriting(writing: boolean): void {
    if (this.writing === writing) return;
    this.writing = writing;
    this.changes.markForCheck();
  }

  protected closeSmall(): void {
    this.small = undefined;
    this.state.retry();
  }

  protected readonly how = sayHow;
  protected readonly sayDelivery = sayDelivery;
  protected readonly sayLeftOut = sayLeftOut;

  protected moves(status: Status): readonly Status[] {
    return STATUS_MOVES[status].filter((s) => s !== 'on hold');
  }

  protected nowText(): string {
    return new Date(this.session.now()).toISOString();
  }

  protected canHold(status: Status): boolean {
    return STATUS_MOVES[status].includes('on hold');
  }

  protected name(clock: ClockWire): string {
    return clockName(clock);
  }

  protected words(clock: ClockWire): string {
    return clockWords(clock, this.session.now(), this.session.zone);
  }

  protected readonly hasEarlier = hasEarlier;
  protected readonly moveWords = moveWords;
  protected readonly earlierWords = (t: TicketWire) => `show earlier${t.earlierMessages ? ` messages: ${t.earlierMessages}` : ''}`;
  protected readonly hiddenWords = ({ insideHidden: n, desk }: TicketWire) =>
    `${n === 1 ? 'One inside note is' : `${n} inside notes are`} for the team of ${desk} alone.`;

  protected lines(t: TicketWire): ConversationLine[] {
    return conversationLines(t, this.showStory, this.session.zone);
  }
}
