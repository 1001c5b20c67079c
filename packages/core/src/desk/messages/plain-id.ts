import { storableText } from '../../ground';

/** As ids of messages are compared: white space inside, which mail servers put in where they fold lines, does not part them. */
export function plainId(id: string): string {
  return storableText(id).replace(/\s+/g, '');
}

/** The ids that a mail cites, the nearest first, at most so many. */
export function citedIds(inReplyTo: string | undefined, references: readonly string[], most = 50): string[] {
  const all = [inReplyTo ?? '', ...[...references].reverse()].flatMap((text) => {
    const found = text.match(/<[^<>]+>/g);
    return found ? (text === inReplyTo ? found : found.reverse()) : [text];
  });
  return [...new Set(all.map(plainId).filter(Boolean))].slice(0, most);
}
