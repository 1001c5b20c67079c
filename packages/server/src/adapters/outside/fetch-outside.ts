import { lookup as resolveName, type LookupAddress } from 'node:dns';
import { request as requestPlain, type IncomingMessage, type RequestOptions } from 'node:http';
import { request as requestSecure } from 'node:https';
import { isIP, type LookupFunction } from 'node:net';
import { isNamedAllowed, isOpenAddress } from './may-be-asked';

export interface Asking {
  readonly headers: Readonly<Record<string, string>>;
  /** Milliseconds for all of it, redirects included. */
  readonly waitMs: number;
  readonly mostBytes: number;
  /** Hosts of our own network that may be asked all the same. */
  readonly allowed: readonly string[];
}

export interface OutsideAnswer {
  readonly status: number;
  readonly etag: string | null;
  readonly body: Buffer;
}

const MOST_REDIRECTS = 5;
const REDIRECTS = new Set([301, 302, 303, 307, 308]);

/** Why an address was not read, in words for whoever typed it; nothing of what it answered is in them. */
export class NotRead extends Error {}

/**
 * Asks an address that a person typed. Neither it nor where it leads may lie in our own network: that is decided on
 * the address that the connection is made to, after resolving, at every redirect.
 * @throws NotRead
 */
export async function fetchOutside(address: string, asking: Asking): Promise<OutsideAnswer> {
  const stop = AbortSignal.timeout(asking.waitMs);
  let url = parsed(address);
  for (let hop = 0; hop <= MOST_REDIRECTS; hop++) {
    const answer = await ask(url, asking, stop);
    const to = answer.headers.location;
    if (!REDIRECTS.has(answer.statusCode ?? 0) || !to) {
      const body = await readBody(answer, asking, stop);
      return { status: answer.statusCode ?? 0, etag: answer.headers.etag ?? null, body };
    }
    answer.destroy();
    url = parsed(to, url);
  }
  throw new NotRead(`The address leads on more than ${MOST_REDIRECTS} times.`);
}

function parsed(address: string, base?: URL): URL {
  const url = URL.canParse(address, base) ? new URL(address, base) : undefined;
  if (!url || !/^https?:$/.test(url.protocol) || url.username || url.password)
    throw new NotRead('The address, or one that it leads to, is not an http or https address without a name and password.');
  return url;
}

function ask(url: URL, asking: Asking, signal: AbortSignal): Promise<IncomingMessage> {
  const free = isNamedAllowed(url, asking.allowed);
  const host = url.hostname.replace(/^\[|\]$/g, '');
  if (!free && isIP(host) && !isOpenAddress(host)) return Promise.reject(barred());
  return new Promise((answered, failed) => {
    const options: RequestOptions = { method: 'GET', headers: asking.headers, signal, agent: false, ...(free ? {} : { lookup: openOnly }) };
    const request = (url.protocol === 'https:' ? requestSecure : requestPlain)(url, options, answered);
    request.on('error', (fault) => failed(fault instanceof NotRead ? fault : notReached(signal, asking)));
    request.end();
  });
}

/** Resolves a name to addresses of the open network alone, so that what is checked is what is connected to. */
const openOnly: LookupFunction = (name, options, done) => {
  resolveName(name, { ...options, all: true }, (fault, found: LookupAddress[]) => {
    if (fault) return done(fault, '', 0);
    if (!found.length || !found.every((each) => isOpenAddress(each.address))) return done(barred(), '', 0);
    if (options.all) return (done as unknown as (fault: null, all: LookupAddress[]) => void)(null, found);
    done(null, found[0]!.address, found[0]!.family);
  });
};

async function readBody(answer: IncomingMessage, asking: Asking, signal: AbortSignal): Promise<Buffer> {
  const chunks: Buffer[] = [];
  let bytes = 0;
  try {
    for await (const chunk of answer as AsyncIterable<Buffer>) {
      bytes += chunk.length;
      if (bytes > asking.mostBytes) throw new NotRead(`What the address gives is larger than ${asking.mostBytes / 1_000_000} MB.`);
      chunks.push(chunk);
    }
  } catch (fault) {
    throw fault instanceof NotRead ? fault : notReached(signal, asking);
  }
  return Buffer.concat(chunks);
}

function barred(): NotRead {
  return new NotRead('The address is in a network of our own, or leads into one; only addresses of the open internet are read.');
}

function notReached(signal: AbortSignal, asking: Asking): NotRead {
  return new NotRead(
    signal.aborted ? `The address did not answer within ${asking.waitMs / 1000} seconds.` : 'The address could not be reached.',
  );
}
