import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  inject,
  input,
  signal,
  ViewContainerRef,
  type Binding,
  type OnInit,
  type Type,
} from '@angular/core';
import { OnTheWay } from '../shell/on-the-way';

/** Loads a component that a page does not know until it is shown. */
export type PartLoader<Part> = () => Promise<Type<Part>>;

/** Shows a component once it is loaded, bound to what the page gives it; where it cannot be loaded, that is said and tried again. */
@Component({
  selector: 'dl-part',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (failed()) {
      <p class="small late" role="alert">
        This could not be loaded. <button type="button" class="btn-link" (click)="show()">Try again</button>
      </p>
    }
  `,
})
export class Part implements OnInit {
  readonly load = input.required<PartLoader<unknown>>();
  readonly bindings = input.required<Binding[]>();
  protected readonly failed = signal(false);
  private readonly here = inject(ViewContainerRef);
  private readonly end = inject(DestroyRef);
  private readonly onTheWay = inject(OnTheWay);

  ngOnInit(): void {
    this.show();
  }

  protected show(): void {
    this.failed.set(false);
    this.onTheWay.add(this.load()()).then(
      (part) => {
        if (!this.end.destroyed) this.here.createComponent(part, { bindings: this.bindings() });
      },
      () => this.failed.set(true),
    );
  }
}
