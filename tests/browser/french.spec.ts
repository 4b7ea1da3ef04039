import { openEvent } from '../api/scenes.ts';
import { callers, expect, test } from './site.ts';

test('what is wrong with a form reaches a French page in French, beside the field and above it', async ({
  page,
  site,
}) => {
  const event = await openEvent(callers(site), { title: 'Journée sur l’eau', capacity: 4 });
  await page.goto(`${site.origin}/e/${event.slug}/register?lang=fr`);
  await expect(page.locator('html')).toHaveAttribute('lang', 'fr');
  const send = page.locator('form button[type=submit]').last();
  await page.getByLabel('Courriel').first().fill('pas une adresse');
  await send.click();
  const above = page.getByRole('alert').first();
  await expect(above).toContainText('Indiquez votre prénom.');
  await expect(above).toContainText('Indiquez votre nom de famille.');
  await expect(page.getByText('Give your first name.')).toHaveCount(0);
  await page.getByLabel('Prénom').first().fill('Zoé');
  await page.getByLabel('Nom', { exact: true }).first().fill('Wren');
  await send.click();
  await expect(page.getByText('Ce n’est pas une adresse de courriel.').first()).toBeVisible();
});
