/** What a rule looks for; empty asks nothing. A star stands for any letters. */
export interface MailPattern {
  readonly sender: string;
  readonly subject: string;
  /** A header by name, and what it holds. */
  readonly header: string;
  readonly headerHolds: string;
}

/** What of a mail rules look at; names of headers in lower case. */
export interface MailLooks {
  readonly sender: string;
  readonly subject: string;
  readonly headers: Readonly<Record<string, string>>;
}

/** The first rule, in the house's order, all of whose patterns a mail holds, in any case of letters. */
export function chooseMailRule<R extends MailPattern>(rules: readonly R[], mail: MailLooks): R | undefined {
  return rules.find((rule) => asksSomething(rule) && fits(rule, mail));
}

export function asksSomething({ sender, subject, headerHolds }: MailPattern): boolean {
  return Boolean(sender || subject || headerHolds);
}

function fits({ sender, subject, header, headerHolds }: MailPattern, mail: MailLooks): boolean {
  return (
    holdsPattern(mail.sender, sender) &&
    holdsPattern(mail.subject, subject) &&
    (!headerHolds || holdsPattern(mail.headers[header.toLowerCase()] ?? '', headerHolds))
  );
}

/** Whether a text holds a pattern: its pieces between stars, one after the other. In linear time, whatever is given. */
export function holdsPattern(text: string, pattern: string): boolean {
  const within = text.toLowerCase();
  let at = 0;
  for (const piece of pattern.toLowerCase().split('*').filter(Boolean)) {
    const found = within.indexOf(piece, at);
    if (found < 0) return false;
    at = found + piece.length;
  }
  return true;
}
