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
