import { BehaviorSubject } from 'rxjs';
import type { FactValue, Id } from '@core/ground';
import type { Impact, Kind, Proposals, Urgency } from '@core/desk';

export interface Choice {
  readonly impact?: Impact;
  readonly urgency?: Urgency;
  readonly kind: Exclude<Kind, 'unsorted'>;
  readonly ownKindId: Id<'own_kind'> | null;
  readonly clientId: Id<'client'> | null;
  readonly contactId: Id<'contact'> | null;
  readonly assetId: Id<'asset'> | null;
  readonly categoryId: Id<'category'> | null;
  /** Own fields by id. */
  readonly fields: Readonly<Record<string, FactValue>>;
}

const FRESH: Choice = { kind: 'incident', ownKindId: null, clientId: null, contactId: null, assetId: null, categoryId: null, fields: {} };

/** What was chosen for the message so far: by hand, and what Drumline is sure of where no hand was. */
export class IntakeChoice {
  private readonly choice = new BehaviorSubject<Choice>(FRESH);
  private readonly byHand = new Set<keyof Choice>();
  readonly choice$ = this.choice.asObservable();

  get value(): Choice {
    return this.choice.value;
  }

  reset(): void {
    this.byHand.clear();
    this.choice.next(FRESH);
  }

  choose(part: Partial<Choice>): void {
    for (const name of Object.keys(part)) this.byHand.add(name as keyof Choice);
    this.choice.next({ ...this.value, ...part });
  }

  /** What is known for sure, save where a person has chosen. */
  fill(part: Partial<Choice>): void {
    const free = Object.entries(part).filter(([name]) => !this.byHand.has(name as keyof Choice));
    this.choice.next({ ...this.value, ...Object.fromEntries(free) });
  }

  /** Takes what Drumline is sure of; an asset only once its client is known. */
  takeSure(proposals: Proposals): void {
    this.fill({
      ...(proposals.category?.sure ? { categoryId: proposals.category.value } : {}),
      ...(proposals.kind?.sure ? { kind: proposals.kind.value } : {}),
      ...(proposals.asset?.sure && this.value.clientId ? { assetId: proposals.asset.value } : {}),
    });
  }
}
