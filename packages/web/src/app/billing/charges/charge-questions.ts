import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { map } from 'rxjs';
import { answeredSchema, askedSchema, chargeQuestionRoutes, type ChargeWire } from '@core/billing';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';

type Question = ChargeWire['questions'][number];

const ASKED: readonly Line[] = [
  { name: 'askedBy', label: 'Who of the client asks?' },
  { name: 'question', label: 'What do they ask?', kind: 'lines', wide: true },
];
const ANSWERED: readonly Line[] = [{ name: 'answer', label: 'What were they answered?', kind: 'lines', wide: true }];

/** What a client asked about a charge before it is billed, and what they were answered. */
@Component({
  selector: 'dl-charge-questions',
  imports: [RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let may = session.may('charges.decide');
    @for (q of charge().questions; track q.id) {
      <p class="small">
        <b>{{ q.askedBy }}:</b> {{ q.question }}
        @if (q.answer) {
          <span class="soft">{{ q.answeredBy }}: {{ q.answer }}</span>
        } @else if (may) {
          <button type="button" class="btn-link small" (click)="answering.set(answering() === q.id ? undefined : q.id)">answer</button>
        }
      </p>
      @if (answering() === q.id) {
        <dl-record-form [form]="answer(q)" [lines]="answered" (saved)="done()" (closed)="answering.set(undefined)" />
      }
    }
    @if (asks()) {
      <dl-record-form [form]="ask()" [lines]="asked" (saved)="done()" (closed)="closed.emit()" />
    }
  `,
  styles: `
    p {
      margin: 2px 0;
    }
  `,
})
export class ChargeQuestions {
  readonly charge = input.required<ChargeWire>();
  /** Whether a question is being noted. */
  readonly asks = input(false);
  readonly closed = output<void>();
  private readonly api = inject(Api);
  protected readonly session = inject(Session);
  protected readonly answering = signal<string | undefined>(undefined);
  protected readonly asked = ASKED;
  protected readonly answered = ANSWERED;

  protected ask(): RecordForm {
    const chargeId = this.charge().id;
    const form: RecordForm<typeof askedSchema> = {
      schema: askedSchema,
      initial: { askedBy: '', question: '' },
      draft: `charge-question.${chargeId}`,
      does: 'Note the question',
      save: (body) => this.api.call(chargeQuestionRoutes.askAboutCharge, { params: { chargeId }, body }),
    };
    return form as unknown as RecordForm;
  }

  protected answer({ id }: Question): RecordForm {
    const form: RecordForm<typeof answeredSchema> = {
      schema: answeredSchema,
      initial: { answer: '' },
      draft: `charge-answer.${id}`,
      does: 'Note the answer',
      save: (body) => this.api.call(chargeQuestionRoutes.answerAboutCharge, { params: { questionId: id }, body }).pipe(map(() => ({ id }))),
    };
    return form as unknown as RecordForm;
  }

  protected done(): void {
    this.answering.set(undefined);
    this.closed.emit();
  }
}
