import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';

const AXE = readFileSync(new URL('../node_modules/axe-core/axe.min.js', import.meta.url), 'utf8');

/** What axe-core puts into the page. */
interface Axe {
  run(where: Document, options: object): Promise<{ violations: { id: string; nodes: { html: string }[] }[] }>;
}

/** What axe-core finds wrong on the page as it is, one line a rule. */
export async function axeProblems(page: Page): Promise<string[]> {
  await page.evaluate(AXE);
  return page.evaluate(async () => {
    const { axe } = window as unknown as { axe: Axe };
    const { violations } = await axe.run(document, { resultTypes: ['violations'] });
    return violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html.slice(0, 120)).join(' | ')}`);
  });
}
