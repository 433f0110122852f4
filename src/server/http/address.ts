import { isIPv6 } from 'node:net';
import { getConfig } from '../config';

/** Header in which the server notes the address of the connection; what a client sends under this name is overwritten. */
export const ADDRESS_HEADER = 'x-copper-address';

/**
 * The client's address: that of the connection, or, behind known proxies, what the outermost of them saw. Anything further
 * to the left in X-Forwarded-For is what a client claims.
 */
export function clientAddress({ headers }: Pick<Request, 'headers'>): string {
  const connection = headers.get(ADDRESS_HEADER) ?? 'unknown';
  const { proxies } = getConfig();
  if (proxies === 0) return connection;
  const forwarded = (headers.get('x-forwarded-for') ?? '').split(',').map((part) => part.trim());
  return forwarded.at(-proxies) || connection;
}

/** The network that an address is of, as one household or company has it: of IPv6 its first 64 bits. */
export function networkOf(address: string): string {
  if (!isIPv6(address)) return address;
  const mapped = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(address);
  if (mapped) return mapped[1];
  const [head, tail] = address.split('%')[0].split('::');
  const groups = head === '' ? [] : head.split(':');
  const after = tail ? tail.split(':').length : 0;
  const zeros = tail === undefined ? 0 : 8 - groups.length - after;
  const all = [...groups, ...Array<string>(zeros).fill('0'), ...(tail ? tail.split(':') : [])];
  return `${all
    .slice(0, 4)
    .map((group) => parseInt(group, 16).toString(16))
    .join(':')}::/64`;
}
