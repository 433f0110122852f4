import { browserName } from './browser-name';

test.each([
  [
    'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0 Safari/537.36',
    'A Chromium browser on Linux',
  ],
  ['Mozilla/5.0 (Windows NT 10.0; rv:140.0) Gecko/20100101 Firefox/140.0', 'Firefox on Windows'],
  [
    'Mozilla/5.0 (iPhone; CPU iPhone OS 19_0 like Mac OS X) AppleWebKit/605.1 Version/19.0 Safari/604.1',
    'Safari on iOS',
  ],
  ['', 'Another program'],
])('%s is %s', (agent, name) => {
  expect(browserName(agent)).toBe(name);
});
