import { Injectable } from '@angular/core';

export interface ListPlace {
  readonly address: string;
  readonly loaded: number;
  readonly top: number;
}

/** Where each list was left, so that coming back finds the same rows under the eyes. */
@Injectable({ providedIn: 'root' })
export class ListPlaces {
  private readonly places = new Map<string, ListPlace>();

  keep(list: string, place: ListPlace): void {
    this.places.set(list, place);
  }

  of(list: string, address: string): ListPlace | undefined {
    const place = this.places.get(list);
    return place?.address === address ? place : undefined;
  }
}
