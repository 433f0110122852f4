import { assetsIn, fontsIn, isPageAsset } from './assets';

test.each([
  ['/_next/static/chunks/a.js', 'script', true],
  ['/_next/static/media/a.woff2', 'font', true],
  ['/icon-192.png', 'image', true],
  ['/_next/static/chunks/worker.js', 'worker', false],
  ['/_next/static/chunks/live.js', 'audioworklet', false],
  ['/_next/static/chunks/a.js#params=1', 'script', false],
  ['/_next/static/chunks/a.js', '', false],
  ['/api/listening/abc', '', false],
])('%s as %p is answered for a page: %p', (path, destination, answered) => {
  expect(isPageAsset(new URL(path, 'http://page'), destination)).toBe(answered);
});

test('what a page and its style sheets load is found once each', () => {
  const html = `<script src="/_next/static/chunks/a.js" async></script><link href="/_next/static/chunks/b.css"><link rel="icon" href="/icon.svg?icon.1o9.svg">
    <script>self.__next_f.push([1,"3:I[7,[\\"/_next/static/chunks/a.js\\",\\"/_next/static/chunks/c-~1.js\\"]]"])</script>`;
  expect(assetsIn(html)).toEqual([
    '/_next/static/chunks/a.js',
    '/_next/static/chunks/b.css',
    '/icon.svg?icon.1o9.svg',
    '/_next/static/chunks/c-~1.js',
  ]);
  expect(assetsIn('<p>nothing</p>')).toEqual([]);
  const css = `@font-face{src:url(../media/x.woff2)}@font-face{src:url("../media/x.woff2"),url('/_next/static/media/y.woff')}`;
  expect(fontsIn(css, '/_next/static/chunks/b.css')).toEqual([
    '/_next/static/media/x.woff2',
    '/_next/static/media/y.woff',
  ]);
});
