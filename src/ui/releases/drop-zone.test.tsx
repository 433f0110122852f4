import { act, fireEvent, waitFor } from '@testing-library/react';
import { createElement } from 'react';
import { hydrateRoot } from 'react-dom/client';
import { renderToString } from 'react-dom/server';
import { DropZone } from './drop-zone';

test('a mix that was chosen before the scripts of the page ran is taken when they do, and once', async () => {
  const taken: string[] = [];
  const zone = createElement(DropZone, {
    title: 'Drop mixes',
    onFiles: (files) => files.map(({ name }) => taken.push(name)),
  });
  const container = document.createElement('div');
  container.innerHTML = renderToString(zone);
  document.body.append(container);
  const input = container.querySelector('input')!;
  const choose = (name: string) =>
    Object.defineProperty(input, 'files', { configurable: true, value: [new File(['x'], name)] });
  choose('Early.wav');
  await act(() => hydrateRoot(container, zone));
  expect(taken).toEqual(['Early.wav']);

  // Its event of before that is replayed takes nothing again; what is chosen next is taken.
  await act(() => Promise.resolve(fireEvent.change(input)));
  choose('Next.wav');
  await act(() => Promise.resolve(fireEvent.change(input)));
  await waitFor(() => expect(taken).toContain('Next.wav'));
  expect(taken).toEqual(['Early.wav', 'Next.wav']);
});
