import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/** What axe finds, in a part of the page or all of it: WCAG 2.2 A and AA, and its best practices; each with its place. */
export async function violations(page: Page, where: string, within?: string): Promise<string[]> {
  // A text that is fading in has too little contrast for a moment.
  await page.evaluate(() =>
    Promise.all(
      document
        .getAnimations()
        .filter(({ effect }) => effect?.getComputedTiming().endTime !== Infinity)
        .map(({ finished }) => finished.catch(() => {})),
    ),
  );
  const tags = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];
  const builder = new AxeBuilder({ page }).withTags(tags);
  const { violations: found } = await (within ? builder.include(within) : builder).analyze();
  return found.flatMap(({ id, nodes }) => nodes.map(({ target }) => `${where}: ${id}, ${target.join(' ')}`));
}
