import { computed, signal, type Signal } from '@angular/core';

export interface KeptText {
  readonly text: Signal<string>;
  type(text: string): void;
  clear(): void;
}

/** What is typed into a box, kept in this browser under a name until it is stored, so that leaving the page loses nothing. */
export function keptText(name: () => string): KeptText {
  const typed = signal<string | undefined>(undefined);
  const key = () => `drumline.draft.${name()}`;
  return {
    text: computed(() => typed() ?? localStorage.getItem(key()) ?? ''),
    type: (text) => {
      localStorage.setItem(key(), text);
      typed.set(text);
    },
    clear: () => {
      localStorage.removeItem(key());
      typed.set('');
    },
  };
}
