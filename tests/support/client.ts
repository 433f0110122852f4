import { randomUUID } from 'node:crypto';
import knex, { type Knex } from 'knex';
import { hashPassword } from '@/server/accounts/password';
import { fillShelf } from '@/server/destinations/shelf';
import { until } from './application';

export interface Answer<T> {
  status: number;
  body: T & { error?: string };
  headers: Headers;
}

/** One signed-in (or not) user of the application over HTTP. */
export class Client {
  private readonly jar = new Map<string, string>();

  /** `headers` go with every request. */
  constructor(
    readonly url: string,
    readonly headers: Record<string, string> = {},
  ) {}

  get cookies(): [name: string, value: string][] {
    return [...this.jar];
  }

  get cookie(): string {
    return this.cookies.map(([name, value]) => `${name}=${value}`).join('; ');
  }

  set cookie(line: string) {
    this.jar.clear();
    for (const pair of line.split('; ')) this.keep(pair);
  }

  private keep(pair: string): void {
    const [, name, value] = /^([^=]+)=(.*)$/.exec(pair) ?? [];
    if (name) this.jar.set(name, value);
  }

  private async fetch(path: string, request: RequestInit): Promise<Response> {
    // After long computation, the pool must first learn which of its connections the server has closed.
    await new Promise((resolve) => setTimeout(resolve, 5));
    return fetch(this.url + path, request);
  }

  async ask<T = Record<string, unknown>>(method: string, path: string, body?: unknown): Promise<Answer<T>> {
    const raw = body instanceof Uint8Array;
    const response = await this.fetch(path, {
      method,
      headers: {
        ...this.headers,
        cookie: this.cookie,
        ...(raw || body === undefined ? {} : { 'Content-Type': 'application/json' }),
      },
      body: raw ? (body as Uint8Array<ArrayBuffer>) : body === undefined ? undefined : JSON.stringify(body),
    });
    for (const line of response.headers.getSetCookie()) this.keep(line.split(';')[0]);
    const text = await response.text();
    return {
      status: response.status,
      body: (text ? JSON.parse(text) : {}) as T & { error?: string },
      headers: response.headers,
    };
  }

  async bytes(path: string, range?: string): Promise<Buffer> {
    const response = await this.fetch(path, {
      headers: { cookie: this.cookie, ...(range ? { Range: range } : {}) },
    });
    return Buffer.from(await response.arrayBuffer());
  }

  async newRelease(title = 'Test release'): Promise<string> {
    return (await this.ask<{ id: string }>('POST', '/api/releases', { title })).body.id;
  }

  send(releaseId: string, name: string, bytes: Uint8Array) {
    return this.ask<{ trackId: string; mixId: string }>(
      'POST',
      `/api/releases/${releaseId}/mixes?name=${encodeURIComponent(name)}`,
      bytes,
    );
  }

  /** Uploads a mix and waits until its intake is done; gives the workspace of its track. */
  async takeIn<T>(releaseId: string, name: string, bytes: Uint8Array): Promise<T> {
    const { status, body } = await this.send(releaseId, name, bytes);
    if (status !== 201) throw new Error(`The upload answered ${status}: ${body.error}`);
    return until('the mix is ready', async () => {
      const { body: workspace } = await this.ask<{ mix: { status: string } }>('GET', `/api/tracks/${body.trackId}`);
      return ['ready', 'refused'].includes(workspace.mix.status) && (workspace as T);
    });
  }
}

export const PASSWORD = 'a password for tests';

export function testDatabase(databaseUrl = process.env.DATABASE_URL): Knex {
  return knex({ client: 'pg', connection: databaseUrl, pool: { min: 0, max: 2 } });
}

export type TestClient = Client & { id: string; email: string };

/** The hash takes as long as it should: once is enough. */
let hashed: Promise<string> | undefined;

/** A new account, signed in. */
export async function newClient(
  url = process.env.TEST_URL!,
  databaseUrl = process.env.DATABASE_URL,
): Promise<TestClient> {
  const email = `${randomUUID()}@example.com`;
  const db = testDatabase(databaseUrl);
  const row = { email, name: 'Test engineer', password_hash: await (hashed ??= hashPassword(PASSWORD)) };
  const [{ id }] = await db('accounts').insert(row).returning<{ id: string }[]>('id');
  await fillShelf(db, id);
  await db.destroy();
  // An address of its own, where the application asks a proxy for it: what others get wrong is not counted against it.
  const address = `10.${[0, 0, 0].map(() => Math.floor(Math.random() * 256)).join('.')}`;
  const client = Object.assign(new Client(url, { 'X-Forwarded-For': address }), { id, email });
  // Another test may be flooding the sign-in now.
  await until('signing in succeeds', async () => {
    const { status } = await client.ask('POST', '/api/session', { email, password: PASSWORD });
    if (status !== 200 && status !== 503) throw new Error(`Signing in answered ${status}.`);
    return status === 200;
  });
  return client;
}
