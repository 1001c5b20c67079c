import { DestroyRef, inject, type OutputEmitterRef, type Signal } from '@angular/core';

/**
 * What closes a panel once an answer is there, if it still shows what was asked: another thing may have been opened
 * meanwhile, or the panel left.
 */
export function closesWhat<T>(shown: Signal<T>, closed: OutputEmitterRef<void>): () => () => void {
  let left = false;
  inject(DestroyRef).onDestroy(() => (left = true));
  return () => {
    const asked = shown();
    return () => {
      if (!left && shown() === asked) closed.emit();
    };
  };
}
