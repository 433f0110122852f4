import { send } from './api';

test('a change waits for the one before it of the same path, also where that failed', async () => {
  const asked: string[] = [];
  const answers: ((response: Response) => void)[] = [];
  globalThis.fetch = ((path: string, { method, body = '' }: { method: string; body?: string }) => {
    asked.push(`${method} ${path} ${body}`);
    return new Promise<Response>((resolve) => answers.push(resolve));
  }) as typeof fetch;
  const put = (path: string, body: number) => send(path, { method: 'PUT', body });

  const first = put('/order', 1);
  const second = put('/order', 2);
  const third = put('/order', 3);
  const elsewhere = put('/title', 4);
  const read = send('/order', {});
  expect(asked).toEqual(['PUT /order 1', 'PUT /title 4', 'GET /order ']);

  const refused = expect(first).rejects.toThrow('The server answered 500. Try again.');
  answers[0](new Response('{}', { status: 500 }));
  await refused;
  answers[1](new Response());
  answers[2](new Response());
  await Promise.all([elsewhere, read]);
  expect(asked.slice(3)).toEqual(['PUT /order 2']);
  answers[3](new Response());
  await second;
  await new Promise(setImmediate);
  expect(asked.slice(4)).toEqual(['PUT /order 3']);
  answers[4](new Response());
  await third;
});
