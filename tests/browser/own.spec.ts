import { linkTo } from '../api/caller.ts';
import { tick } from './pages/controls.ts';
import { callers, checkAccess, expect, pageOf, test } from './site.ts';

test('somebody puts their own details right from a link; what contradicts the records is decided; then they are erased', async ({
  browser,
  site,
}) => {
  const odalys = await callers(site).as('odalys');
  const { id } = await odalys.call('POST /api/contacts', {
    body: {
      given: 'Hester',
      family: 'Sedge',
      email: 'hester.sedge@fenmail.example',
      street: '3 Chapel Hill',
    },
  });
  const url = await linkTo(site.started.app, 'own', id);

  const phone = await pageOf(browser, site, null, true);
  await phone.goto(url);
  await expect(phone.getByRole('heading', { name: 'Your details, Hester' })).toBeVisible();
  await checkAccess(phone);
  await phone.getByLabel('Street', { exact: true }).fill('8 Harbour St');
  await phone.getByLabel('Allergies and needs').fill('no nuts');
  await phone.getByLabel('Another telephone').fill('12');
  await phone.getByRole('button', { name: 'Save' }).click();
  await expect(phone.getByText('This is not a telephone number.').first()).toBeVisible();
  await phone.getByLabel('Another telephone').fill('902 555 0177');
  await phone.getByRole('button', { name: 'Save' }).click();
  await expect(phone.getByText('Saved. What contradicts our records is looked at first.')).toBeVisible();
  await expect(phone.getByText('+19025550177')).toBeVisible();
  await expect(phone.getByText('Your change is with the organization')).toBeVisible();
  const newsletter = phone.getByRole('group', { name: /^The newsletter by email/u });
  await tick(newsletter.getByLabel('no'));
  await expect(newsletter.getByText('not asked yet')).toHaveCount(0);
  await phone.getByRole('button', { name: 'Français' }).click();
  await expect(phone.getByRole('heading', { name: 'Vos coordonnées, Hester' })).toBeVisible();
  await phone.context().close();

  const page = await pageOf(browser, site, 'Odalys Ferrant');
  await page.goto('/desk');
  await expect(page.getByText('Changes people asked for')).toBeVisible();
  await page.goto('/contacts/changes');
  await expect(page.getByText('8 Harbour St')).toBeVisible();
  await checkAccess(page);
  await page.getByRole('button', { name: 'Accept it' }).click();
  await expect(page.getByText(/waits here for review/u)).toBeVisible();

  await page.goto(`/contacts/${id}`);
  await expect(page.getByText('8 Harbour St').first()).toBeVisible();
  await expect(page.getByText('newsletter by email: no').first()).toBeVisible();
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Email 1: kind').selectOption('home');
  await dialog.getByRole('button', { name: 'Add an email' }).click();
  await dialog.getByLabel('Email 2', { exact: true }).fill('hester@work.example');
  await dialog.getByRole('button', { name: 'Put first' }).click();
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toHaveCount(0);
  await expect(page.getByText('hester@work.example').first()).toBeVisible();

  // A link that came into other hands is renewed: the old one leads nowhere.
  await page.getByRole('button', { name: 'Their links' }).click();
  const links = page.getByRole('dialog', { name: 'Links of Hester Sedge' });
  await links.getByRole('button', { name: 'Renew the link: Their own page' }).click();
  await expect(page.getByText('The old link no longer works.')).toBeVisible();
  await checkAccess(page);
  await links.getByRole('button', { name: 'Close' }).click();
  const stranger = await pageOf(browser, site, null);
  await stranger.goto(url);
  await expect(stranger.getByRole('heading', { name: 'Page not found' })).toBeVisible();
  const renewed = await linkTo(site.started.app, 'own', id);
  await stranger.goto(renewed);
  await expect(stranger.getByRole('heading', { name: 'Your details, Hester' })).toBeVisible();
  await stranger.context().close();

  await page.getByRole('button', { name: 'Erase this person' }).click();
  const erasing = page.getByRole('dialog', { name: 'Erase Hester Sedge for good?' });
  await expect(erasing.getByText(/^This can’t be undone\. Deleted: name, address/u)).toBeVisible();
  await checkAccess(page);
  await erasing.getByLabel(/^To confirm, type the name/u).fill('Hester');
  await erasing.getByRole('button', { name: 'Erase for good' }).click();
  await expect(erasing.getByText('Type the name as it stands: Hester Sedge.').first()).toBeVisible();
  await erasing.getByLabel(/^To confirm, type the name/u).fill('hester sedge');
  await erasing.getByRole('button', { name: 'Erase for good' }).click();
  await expect(page.getByRole('heading', { name: 'Erased person' })).toBeVisible();
  await page.goto('/contacts');
  await page.getByLabel('Filter contacts').fill('sedge');
  await expect(page.getByText('Nobody found for “sedge”.')).toBeVisible();
  await page.context().close();

  const gone = await pageOf(browser, site, null);
  await gone.goto(renewed);
  await expect(gone.getByRole('heading', { name: 'Page not found' })).toBeVisible();
});
