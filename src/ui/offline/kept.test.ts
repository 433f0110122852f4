import { keptAsked, LISTENING_PATH } from './kept';

test.each([
  [{ token: 'abc', urls: ['/api/listening/abc/streams/mix/opus?edition=1'] }, true],
  [{ token: 'abc', urls: [] }, true],
  [{ token: 'abc', urls: ['/api/listening/other/streams/mix/opus'] }, false],
  [{ token: 'abc', urls: ['/api/releases'] }, false],
  [{ token: 'abc', urls: ['https://example.com/api/listening/abc/streams/mix/opus'] }, false],
  [{ token: 7, urls: [] }, false],
  [{ token: 'abc', urls: 'x' }, false],
  [null, false],
])('a page that asks for %j is heard: %p', (asked, heard) => {
  expect(keptAsked(asked)).toEqual(heard ? asked : null);
});

test('pages, answers and streams of a link have its token', () => {
  for (const path of ['/listen/abc', '/api/listening/abc', '/api/listening/abc/streams/mix/opus'])
    expect(LISTENING_PATH.exec(path)?.[1]).toBe('abc');
  expect(LISTENING_PATH.exec('/releases/abc')).toBeNull();
});
