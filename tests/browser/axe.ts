import type { Page } from '@playwright/test';
import axe, { type AxeResults, type ElementContext, type RunOptions } from 'axe-core';

/** WCAG 2.2 A and AA, and axe's best practices. */
const TAGS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];
/** The rules of those that look at colours. */
const COLOURS = ['color-contrast', 'link-in-text-block'];

async function found(page: Page, where: string, runOnly: RunOptions['runOnly'], within?: string): Promise<string[]> {
  // A text that is fading in has too little contrast for a moment.
  await page.evaluate(() =>
    Promise.all(
      document
        .getAnimations()
        .filter(({ effect }) => effect?.getComputedTiming().endTime !== Infinity)
        .map(({ finished }) => finished.catch(() => {})),
    ),
  );
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source);
  const { violations: all } = await page.evaluate(
    async ([context, options]) => {
      const { axe: here } = window as unknown as { axe: typeof axe };
      const { violations: list } = await here.run((context ?? document) as ElementContext, options);
      return { violations: list } as AxeResults;
    },
    [within ?? null, { runOnly, resultTypes: ['violations'] } satisfies RunOptions] as const,
  );
  return all.flatMap(({ id, nodes }) => nodes.map(({ target }) => `${where}: ${id}, ${target.join(' ')}`));
}

/** What axe finds, in a part of the page or all of it, each with its place. */
export function violations(page: Page, where: string, within?: string): Promise<string[]> {
  return found(page, where, { type: 'tag', values: TAGS }, within);
}

/** The same, and what the colours of the other theme have against them: themes differ in nothing else. */
export async function violationsInBothThemes(page: Page, where: string, within?: string): Promise<string[]> {
  const inThis = await violations(page, where, within);
  const other = await page.evaluate(() => {
    const { dataset } = document.documentElement;
    const now = dataset.theme;
    dataset.theme = now === 'dark' ? 'light' : 'dark';
    return now;
  });
  const inOther = await found(page, `${where}, other theme`, { type: 'rule', values: COLOURS }, within);
  await page.evaluate((theme) => (document.documentElement.dataset.theme = theme), other);
  return [...inThis, ...inOther];
}
