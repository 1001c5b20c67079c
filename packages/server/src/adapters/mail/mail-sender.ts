import { createHmac, timingSafeEqual } from 'node:crypto';
import { createTransport, type SendMailOptions, type Transporter } from 'nodemailer';
import { OWN_HEADER, plainId } from '@core/desk';

export interface OutgoingMail {
  readonly from: { readonly name: string; readonly address: string };
  readonly to: readonly string[];
  readonly cc: readonly string[];
  readonly subject: string;
  readonly text: string;
  readonly messageId: string;
  readonly inReplyTo?: string | undefined;
  readonly references: readonly string[];
  readonly headers: Readonly<Record<string, string>>;
  readonly attachments: readonly { readonly filename: string; readonly content: Buffer; readonly contentType: string }[];
}

/** Hands mail to the mail server named in the settings. */
export class MailSender {
  private readonly transport: Transporter;

  /** @param secret what the mark of our own mail is signed with */
  constructor(
    url: string,
    private readonly secret: string,
  ) {
    this.transport = createTransport(url, {
      connectionTimeout: 5000,
      greetingTimeout: 5000,
      socketTimeout: 15_000,
    } as never);
  }

  /** @throws where the server does not take it */
  async send(mail: OutgoingMail): Promise<void> {
    await this.transport.sendMail({
      ...mail,
      headers: { ...mail.headers, [OWN_HEADER]: this.mark(mail.messageId) },
      disableFileAccess: true,
      disableUrlAccess: true,
    } as unknown as SendMailOptions);
  }

  /** Whether a mail is one that we sent: it carries our mark for its own id, which nobody else can write. */
  isOwn(messageId: string | null, headers: Readonly<Record<string, string>>): boolean {
    const given = Buffer.from(headers[OWN_HEADER] ?? '');
    const own = Buffer.from(messageId ? this.mark(messageId) : '');
    return own.length > 0 && given.length === own.length && timingSafeEqual(given, own);
  }

  private mark(messageId: string): string {
    return createHmac('sha256', this.secret).update(plainId(messageId)).digest('base64url');
  }
}
