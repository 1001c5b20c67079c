/** What a delivery report says. */
export interface Reported {
  readonly id: string;
  readonly address: string;
  readonly action: 'failed' | 'delayed';
  readonly status: string;
  /** The id of the mail it is about, which stands in the enclosed original alone. */
  readonly original: string;
}

/** A delivery report as mail servers send it (RFC 3464). */
export function deliveryReport({ id, address, action, status, original }: Reported): string {
  return [
    'From: Mail Delivery <mailer-daemon@mx.example>',
    'To: desk@pellworth.example',
    `Message-ID: ${id}`,
    'Subject: Delivery report',
    'MIME-Version: 1.0',
    'Content-Type: multipart/report; report-type=delivery-status; boundary="b"',
    '',
    '--b',
    'Content-Type: text/plain',
    '',
    'Your mail could not be delivered.',
    '--b',
    'Content-Type: message/delivery-status',
    '',
    'Reporting-MTA: dns; mx.example',
    '',
    `Final-Recipient: rfc822; ${address}`,
    `Action: ${action}`,
    `Status: ${status}`,
    '',
    '--b',
    'Content-Type: message/rfc822',
    '',
    'From: desk@pellworth.example',
    `Message-ID: ${original}`,
    'Subject: Re: x',
    '',
    'body',
    '--b--',
    '',
  ].join('\r\n');
}
