import { BlockList, isIP } from 'node:net';

/** Where nothing is asked for on somebody's word: RFC 6890's special purpose addresses. */
const BARRED = new BlockList();
for (const [net, prefix] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.0.2.0', 24],
  ['192.88.99.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['198.51.100.0', 24],
  ['203.0.113.0', 24],
  ['224.0.0.0', 4],
  ['240.0.0.0', 4],
] as const)
  BARRED.addSubnet(net, prefix, 'ipv4');
for (const [net, prefix] of [
  ['::', 96],
  ['64:ff9b::', 96],
  ['64:ff9b:1::', 48],
  ['100::', 64],
  ['2001::', 23],
  ['2001:db8::', 32],
  ['2002::', 16],
  ['fc00::', 7],
  ['fe80::', 10],
  ['fec0::', 10],
  ['ff00::', 8],
] as const)
  BARRED.addSubnet(net, prefix, 'ipv6');

/** Whether an IP address, as it came of resolving a name, is one of the open network. */
export function isOpenAddress(address: string): boolean {
  const version = isIP(address);
  if (!version) return false;
  return !BARRED.check(address, version === 6 ? 'ipv6' : 'ipv4');
}

/** The hosts of our own network that may be asked all the same, as settings name them: "127.0.0.1:4650", or a host at any port. */
export function isNamedAllowed(url: URL, allowed: readonly string[]): boolean {
  const port = url.port || (url.protocol === 'https:' ? '443' : '80');
  return allowed.includes(url.hostname) || allowed.includes(`${url.hostname}:${port}`);
}
