import type { Page } from 'playwright-core';

/** Gives the `k`th size line on the Files screen, counted from 1, another format by its title. */
export async function setFormat(page: Page, k: number, title: string): Promise<void> {
  const row = page.getByRole('row').nth(k);
  const open = page.locator('.ant-select-dropdown:not(.ant-select-dropdown-hidden)');
  await row.getByRole('combobox', { name: 'Format' }).click();
  await open.locator('.ant-select-item-option').getByText(title, { exact: true }).click();
  await open.waitFor({ state: 'hidden' });
  await row.getByTitle(title, { exact: true }).waitFor();
}
