import { expect, type Locator, type Page } from '@playwright/test';
import { tickAll } from './controls.ts';

interface Person {
  given?: string;
  family?: string;
  birthDate?: string;
}

/** The public form of a party, its payment and its signatures. */
export class Registering {
  constructor(readonly page: Page) {}

  /** Opens the form, where whoever books says that they come too. */
  async open(slug: string): Promise<void> {
    await this.page.goto(`/e/${slug}/register`);
    await this.comes();
  }
  comes = (): Promise<void> =>
    this.page.getByRole('group', { name: 'Are you coming yourself?' }).getByText(/^yes$/iu).click();
  /** One more of an offer. */
  more = (offer: string): Locator => this.page.getByRole('button', { name: `+ ${offer}` });
  /** Who books is “You”, the others are “Seat 2” and so on. */
  seat = (name: string): Locator => this.page.getByRole('group', { name, exact: true });

  async name(seat: string, { given, family, birthDate }: Person): Promise<void> {
    const of = this.seat(seat);
    // Who books is named above the seats.
    const named = seat === 'You' ? this.page : of;
    if (given !== undefined) await named.getByLabel('First name').first().fill(given);
    if (family !== undefined) await named.getByLabel('Last name').first().fill(family);
    if (birthDate !== undefined) await of.getByLabel('Birth date').fill(birthDate);
  }
  email = (address: string): Promise<void> =>
    this.page.getByLabel('Email', { exact: true }).first().fill(address);

  /** Pays what is due with a card of the stand-in: “1” is taken, “2” is declined. */
  async pay(amount: string, card: '1' | '2' = '1'): Promise<void> {
    await this.page.getByRole('button', { name: `9000 0000 0000 000${card}` }).click();
    await this.page.getByRole('button', { name: `Pay ${amount}` }).click();
  }

  /** Ticks every clause that one has to agree to, and signs with a name: for oneself, and for every child. */
  async sign(name: string): Promise<void> {
    const form = this.page
      .locator('form')
      .filter({ has: this.page.getByLabel('Type your first and last name') });
    await tickAll(form);
    await form.getByLabel('Type your first and last name').fill(name);
    await form.getByRole('button', { name: /^Sign/u }).click();
    await expect(form).toHaveCount(0);
  }
}
