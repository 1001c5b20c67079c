import { Pipe, type PipeTransform } from '@angular/core';
import type { ShownFieldWire } from '@core/desk';
import { plainDate } from '../../ui/time-format';

/** What an own field of a record holds, as people read it. */
@Pipe({ name: 'ownValue' })
export class OwnValuePipe implements PipeTransform {
  transform({ kind, words, required }: Pick<ShownFieldWire, 'kind' | 'words' | 'required'>): string {
    if (words === null) return required ? 'must be filled' : 'not filled';
    return kind === 'date' ? plainDate(words) : words;
  }
}
