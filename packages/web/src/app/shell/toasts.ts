import { Injectable } from '@angular/core';
import { BehaviorSubject } from 'rxjs';
import { problemOf } from './problem';

export interface Toast {
  readonly id: number;
  readonly text: string;
  readonly kind: 'done' | 'trouble';
  readonly undo?: () => void;
}

const UNDO_MS = 10_000;
const TROUBLE_MS = 14_000;

/** Quiet words in the top bar; undo is offered for ten seconds. */
@Injectable({ providedIn: 'root' })
export class Toasts {
  private readonly list = new BehaviorSubject<readonly Toast[]>([]);
  private last = 0;
  readonly toasts$ = this.list.asObservable();

  done(text: string, undo?: () => void): void {
    this.show({ id: ++this.last, text, kind: 'done', ...(undo ? { undo } : {}) }, UNDO_MS);
  }

  trouble(fault: unknown): void {
    // Plain words are what somebody is to do; anything else went wrong.
    const { title, detail } = problemOf(fault);
    this.show({ id: ++this.last, text: typeof fault === 'string' ? fault : `${title}. ${detail}`, kind: 'trouble' }, TROUBLE_MS);
  }

  dismiss(id: number): void {
    this.list.next(this.list.value.filter((t) => t.id !== id));
  }

  /** Takes back the newest thing that can be. */
  undoLatest(): void {
    const toast = [...this.list.value].reverse().find((t) => t.undo);
    if (!toast) return;
    this.dismiss(toast.id);
    toast.undo!();
  }

  private show(toast: Toast, forMs: number): void {
    // What was only said makes room for the next; what can be taken back and what went wrong stays its time.
    this.list.next([...this.list.value.slice(-2).filter((t) => t.undo || t.kind === 'trouble'), toast]);
    setTimeout(() => this.dismiss(toast.id), forMs);
  }
}
