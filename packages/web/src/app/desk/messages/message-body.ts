import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { DomSanitizer } from '@angular/platform-browser';
import { messageRoutes, type MessageWire } from '@core/desk';
import type { Id } from '@core/ground';
import { urlOf } from '../../shell/api';
import { saySize } from '../../ui/say-size';

/** What a browser shows as a picture and nothing in it can run. */
const PICTURES = /^image\/(png|jpeg|gif|webp|avif)$/;

/** The real address stands behind each link, whatever its words say. */
const SHOW_ADDRESSES = 'a[href]::after{content:" <" attr(href) ">";color:#5a6272;font-size:12px;overflow-wrap:anywhere}';

/** A message's words; what it quotes is folded away, and its own layout opens in a closed-off frame. */
@Component({
  selector: 'dl-message-body',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (asSent()) {
      <iframe
        sandbox="allow-popups allow-popups-to-escape-sandbox"
        referrerpolicy="no-referrer"
        [srcdoc]="frame()"
        title="The message as it was sent"
      ></iframe>
    } @else {
      <div class="words">{{ parts().own }}</div>
      @if (parts().quoted) {
        <details>
          <summary class="soft small">what it quotes</summary>
          <div class="words soft">{{ parts().quoted }}</div>
        </details>
      }
    }
    @if (pictures().length) {
      <p class="pictures">
        @for (a of pictures(); track a.id) {
          <a [href]="attachment(a.id)" download><img loading="lazy" [src]="attachment(a.id)" [alt]="a.name" /></a>
        }
      </p>
    }
    @if (message().attachments.length || message().html || message().hasSource) {
      <p class="more small">
        @for (a of message().attachments; track a.id) {
          <a [href]="attachment(a.id)" download>{{ a.name }}</a> <span class="soft">{{ size(a.bytes) }}</span>
        }
        @if (message().html) {
          <button type="button" class="btn-link small" (click)="asSent.set(!asSent())">
            {{ asSent() ? 'as text' : 'as it was sent' }}
          </button>
        }
        @if (message().hasSource) {
          <a [href]="source()" download>source</a>
        }
      </p>
    }
  `,
  styles: `
    .words {
      white-space: pre-wrap;
      overflow-wrap: anywhere;
    }
    .more {
      display: flex;
      gap: 10px;
      align-items: center;
      margin-top: 8px;
      flex-wrap: wrap;
    }
    .pictures {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      margin: 8px 0 0;
    }
    img {
      max-height: 140px;
      max-width: 240px;
      border: 1px solid var(--rule);
      border-radius: 4px;
    }
    iframe {
      width: 100%;
      height: 320px;
      border: 1px solid var(--rule);
      background: #fff;
    }
    details {
      margin-top: 8px;
    }
  `,
})
export class MessageBody {
  private readonly sanitizer = inject(DomSanitizer);
  readonly message = input.required<MessageWire>();
  protected readonly asSent = signal(false);
  protected readonly parts = computed(() => splitQuoted(this.message().text));
  // The server cleaned it, and the sandbox allows nothing to run; links open in a window of their own. Angular need not clean it once more.
  protected readonly frame = computed(() =>
    this.sanitizer.bypassSecurityTrustHtml(
      `<base target="_blank"><meta name="referrer" content="no-referrer"><style>${SHOW_ADDRESSES}</style><body style="font:14px sans-serif">${this.message().html ?? ''}`,
    ),
  );

  protected attachment(attachmentId: Id<'attachment'>): string {
    return urlOf(messageRoutes.getAttachment, { attachmentId });
  }

  protected source(): string {
    return urlOf(messageRoutes.getMessageSource, { messageId: this.message().id });
  }

  protected readonly size = saySize;
  protected readonly pictures = computed(() => this.message().attachments.filter((a) => PICTURES.test(a.mediaType)));
}

/** Cuts off what stands quoted at the end: lines with ">" and the line that introduces them. */
export function splitQuoted(text: string): { own: string; quoted: string } {
  const lines = text.trimEnd().split('\n');
  let at = lines.length;
  while (at > 0 && (/^\s*>/.test(lines[at - 1]!) || (lines[at - 1]!.trim() === '' && at < lines.length))) at--;
  if (at === lines.length) return { own: text.trim(), quoted: '' };
  if (at > 0 && /:\s*$/.test(lines[at - 1]!)) at--;
  return { own: lines.slice(0, at).join('\n').trim(), quoted: lines.slice(at).join('\n').trim() };
}
