import { type LookupAddress, lookup } from 'node:dns';
import { request as plain } from 'node:http';
import { request as secure } from 'node:https';
import { BlockList, isIP } from 'node:net';

/** Networks that are nobody's on the outside (RFC 6890): what is asked for from there stays unasked. */
const inside = new BlockList();
for (const [net, bits] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['224.0.0.0', 4],
  ['240.0.0.0', 4],
] as const)
  inside.addSubnet(net, bits, 'ipv4');
for (const [net, bits] of [
  ['::', 128],
  ['::1', 128],
  ['fc00::', 7],
  ['fe80::', 10],
  ['ff00::', 8],
] as const)
  inside.addSubnet(net, bits, 'ipv6');

/** True for an address within the machine or its own network. */
export const isInside = (ip: string): boolean => {
  const mapped = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/u.exec(ip)?.[1];
  const of = mapped ?? ip;
  return inside.check(of, isIP(of) === 6 ? 'ipv6' : 'ipv4');
};

const seconds = 15;
const mostBytes = 25_000_000;
const mostTurns = 3;

/**
 * Reads a text from an address of the web, following it where it moved to. Nothing is asked of the machine itself or of its
 * own network, whatever a name leads to. Throws what went wrong.
 */
export async function fetchText(address: string, turns = 0): Promise<string> {
  const url = new URL(address);
  if (url.protocol !== 'https:' && url.protocol !== 'http:') throw new Error('not an address of the web');
  if (isIP(url.hostname.replace(/^\[|\]$/gu, '')) && isInside(url.hostname.replace(/^\[|\]$/gu, '')))
    throw new Error('an address of the inside');
  const answer = await new Promise<{ text: string } | { to: string }>((resolve, reject) => {
    const ask = (url.protocol === 'https:' ? secure : plain)(
      url,
      {
        headers: { accept: 'text/calendar, text/plain;q=0.5' },
        timeout: seconds * 1000,
        // Asked as it connects: a name cannot lead elsewhere in between.
        lookup: (host, options, done) =>
          lookup(host, { ...options, all: true }, (error, found: LookupAddress[]) => {
            const bad =
              error ??
              (found.some((f) => isInside(f.address)) ? new Error('an address of the inside') : null);
            if (bad) done(bad, '', 4);
            else if (options.all) (done as unknown as (e: null, f: LookupAddress[]) => void)(null, found);
            else done(null, found[0]!.address, found[0]!.family);
          }),
      },
      (response) => {
        const { statusCode = 0 } = response;
        if (statusCode >= 300 && statusCode < 400 && response.headers.location) {
          response.resume();
          resolve({ to: new URL(response.headers.location, url).href });
          return;
        }
        if (statusCode !== 200) {
          response.resume();
          reject(new Error(`answered with ${statusCode}`));
          return;
        }
        const parts: Buffer[] = [];
        let bytes = 0;
        response.on('data', (part: Buffer) => {
          bytes += part.length;
          if (bytes > mostBytes) ask.destroy(new Error('too large'));
          else parts.push(part);
        });
        response.on('end', () => resolve({ text: Buffer.concat(parts).toString('utf8') }));
        response.on('error', reject);
      },
    );
    ask.on('timeout', () => ask.destroy(new Error('no answer in time')));
    ask.on('error', reject);
    ask.end();
  });
  if ('text' in answer) return answer.text;
  if (turns >= mostTurns) throw new Error('led on too often');
  return fetchText(answer.to, turns + 1);
}
