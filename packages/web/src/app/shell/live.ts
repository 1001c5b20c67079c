import { Injectable } from '@angular/core';
import { BehaviorSubject, debounceTime, filter, merge, Subject, type Observable } from 'rxjs';

export interface LiveEvent {
  readonly topic: string;
  readonly id: string | null;
  /** Who caused it. */
  readonly by: string | null;
}

const GATHER_MS = 120;

/** Live changes from the server. The browser reconnects by itself and asks for what it missed. */
@Injectable({ providedIn: 'root' })
export class Live {
  private readonly events = new Subject<LiveEvent>();
  private readonly connected = new BehaviorSubject(true);
  private readonly again = new Subject<void>();
  private source: EventSource | undefined;
  readonly events$ = this.events.asObservable();
  readonly connected$ = this.connected.asObservable();

  start(): void {
    if (this.source) return;
    const source = (this.source = new EventSource('/api/live'));
    source.onmessage = (message: MessageEvent<string>) => this.events.next(JSON.parse(message.data) as LiveEvent);
    source.addEventListener('hello', () => {
      if (!this.connected.value) this.again.next();
      this.connected.next(true);
    });
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

  /** Fires, gathered, when something of these topics changed, and when the connection is back. */
  about(...topics: readonly string[]): Observable<unknown> {
    return merge(this.events.pipe(filter((e) => topics.includes(e.topic))), this.again).pipe(debounceTime(GATHER_MS));
  }
}
