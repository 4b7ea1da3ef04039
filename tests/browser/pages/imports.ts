import { expect, type Page } from '@playwright/test';

/** Chooses a file with people and waits for its dry run. */
export async function bringInFile(
  page: Page,
  file: string | { name: string; content: string },
): Promise<void> {
  await page.goto('/import');
  await page
    .locator('input[type=file]')
    .setInputFiles(
      typeof file === 'string'
        ? file
        : { name: file.name, mimeType: 'text/csv', buffer: Buffer.from(file.content) },
    );
  await expect(
    page.getByRole('heading', { name: typeof file === 'string' ? file.split('/').at(-1)! : file.name }),
  ).toBeVisible();
}

/** Applies the dry run that is open. */
export async function applyAll(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Apply', exact: true }).click();
  await page.getByRole('button', { name: /^Apply \d+ rows/u }).click();
  await expect(page.getByRole('button', { name: 'Undo this import' })).toBeVisible({ timeout: 60_000 });
}
