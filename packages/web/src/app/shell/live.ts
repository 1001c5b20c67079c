import { inject, Injectable } from '@angular/core';
import { BehaviorSubject, debounceTime, filter, map, merge, Subject, type Observable } from 'rxjs';
import type { TicketCounts } from '@core/desk';
import { idsIn, type Interest, type LiveEvent, touches } from '@core/ground';
import { Session } from './session';

const GATHER_MS = 120;

/** Live changes from the server. The browser reconnects by itself and asks for what it missed. */
@Injectable({ providedIn: 'root' })
export class Live {
  private readonly session = inject(Session);
  private readonly events = new Subject<LiveEvent>();
  private readonly counts = new Subject<TicketCounts>();
  private readonly connected = new BehaviorSubject(true);
  private readonly again = new Subject<void>();
  private source: EventSource | undefined;
  readonly events$ = this.events.asObservable();
  readonly connected$ = this.connected.asObservable();
  /** The figures of the rail, sent whenever one differs. */
  readonly counts$ = this.counts.asObservable();
  /** The connection is back: what is shown may be over. */
  readonly again$ = this.again.asObservable();

  start(): void {
    const me = this.session.current;
    if (this.source || !me) return;
    // Pages read before the stream is open: what changed since the session was read comes too.
    const source = (this.source = new EventSource(`/api/live?after=${me.liveAt}`));
    source.onmessage = (message: MessageEvent<string>) => this.events.next(JSON.parse(message.data) as LiveEvent);
    source.addEventListener('hello', () => {
      if (!this.connected.value) this.again.next();
      this.connected.next(true);
    });
    source.addEventListener('counts', (message: MessageEvent<string>) => this.counts.next(JSON.parse(message.data) as TicketCounts));
    // Away for longer than events are kept: everything shown is read anew.
    source.addEventListener('anew', () => this.again.next());
    source.onerror = () => {
      this.connected.next(false);
      if (source.readyState !== EventSource.CLOSED) return;
      this.stop();
      setTimeout(() => this.start(), 1500);
    };
  }

  stop(): void {
    this.source?.close();
    this.source = undefined;
  }

  /** Fires, gathered, when anything of these topics changed, and when the connection is back. */
  about(...topics: readonly string[]): Observable<unknown> {
    return this.touching(() => ({ topics }));
  }

  /** As about, but only for what belongs to whoever is signed in, or stands in what the page read last. */
  mine(topics: readonly string[], shown: () => unknown = () => undefined): Observable<unknown> {
    return this.touching(() => ({ topics, records: idsIn(shown()), personId: this.session.current?.person.id ?? null }));
  }

  /** As about, but only for what stands in what the page read last. */
  of(topics: readonly string[], shown: () => unknown): Observable<unknown> {
    return this.touching(() => ({ topics, records: idsIn(shown()) }));
  }

  /** As about, but only for what may alter what is shown, asked at each change. */
  touching(interest: () => Interest): Observable<unknown> {
    return merge(this.events.pipe(filter((e) => touches(e, interest()))), this.again).pipe(
      map(() => undefined),
      debounceTime(GATHER_MS),
    );
  }
}
