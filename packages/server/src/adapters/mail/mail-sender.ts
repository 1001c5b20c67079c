import { createTransport, type SendMailOptions, type Transporter } from 'nodemailer';

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

  constructor(url: string) {
    this.transport = createTransport(url, {
      connectionTimeout: 5000,
      greetingTimeout: 5000,
      socketTimeout: 15_000,
    } as never) as Transporter;
  }

  /** @throws where the server does not take it */
  async send(mail: OutgoingMail): Promise<void> {
    await this.transport.sendMail({ ...mail, disableFileAccess: true, disableUrlAccess: true } as unknown as SendMailOptions);
  }
}
