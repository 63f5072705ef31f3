import { isIP } from 'node:net';
import mdns from 'multicast-dns';
import type { Lan } from './lan.js';

const TTL_S = 120;
const HEARD_WITHIN_MS = 750;
const SUFFIX = '.local';

export interface Announced {
  /** said wherever the network asks for it */
  readonly name: string;
  close(): void;
}

/**
 * Answers for the kitchen's name on the network (multicast DNS, RFC 6762), so that tablets keep finding it where its address changes. A
 * name another machine has is not taken. Null where it is taken or this network carries no such questions: the address is used then.
 */
export async function announce(lan: Lan, interfaceAddress?: string): Promise<Announced | null> {
  const name = lan.localName;
  if (name === null) return null;
  const own = () => lan.names().filter((n) => isIP(n) !== 0);
  try {
    const net = mdns({ ...(interfaceAddress ? { interface: interfaceAddress } : {}), bind: '0.0.0.0' });
    // A network that goes away later is no reason to end.
    let isDown = false;
    net.on('error', () => {
      isDown = true;
    });
    const isTaken = await new Promise<boolean>((decide) => {
      net.on('response', ({ answers }) => {
        if (answers.some((a) => a.type === 'A' && a.name.toLowerCase() === name && !own().includes(String(a.data)))) decide(true);
      });
      net.on('ready', () => net.query(name, 'A'));
      setTimeout(() => decide(false), HEARD_WITHIN_MS);
    });
    if (isTaken || isDown) {
      net.destroy();
      return null;
    }
    const answers = () =>
      own().map((data) => ({ name, type: isIP(data) === 4 ? ('A' as const) : ('AAAA' as const), ttl: TTL_S, flush: true, data }));
    net.on('query', ({ questions }) => {
      if (questions.some((q) => q.name.toLowerCase() === name && ['A', 'AAAA', 'ANY'].includes(q.type)))
        net.respond({ answers: answers() });
    });
    net.respond({ answers: answers() });
    return { name, close: () => net.destroy() };
  } catch {
    return null;
  }
}

/** `name` as it is said on the network: letters, digits and hyphens before `.local`. */
export const asLocalName = (name: string): string | null => {
  const bare = name.toLowerCase().replace(new RegExp(`\\${SUFFIX}$`), '');
  return /^[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?$/.test(bare) ? `${bare}${SUFFIX}` : null;
};
