/** What axe-core finds wrong on a page (WCAG 2.2 AA), as short lines. */
import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';

export async function faultsOn(page: Page, path: string): Promise<string[]> {
  await page.goto(path);
  await page.waitForLoadState('networkidle').catch(() => undefined);
  await page.waitForTimeout(600);
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
    .analyze();
  return violations.map((one) => `${one.id}: ${one.nodes[0]?.html.slice(0, 160)}`);
}
