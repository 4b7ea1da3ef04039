import { expect, type Locator, type Page } from '@playwright/test';

/** The door list of an event, on one device. */
export class DoorList {
  constructor(readonly page: Page) {}

  async open(eventId: string): Promise<void> {
    await this.page.goto(`/doors/${eventId}`);
    await expect(this.search).toBeVisible();
  }
  get search(): Locator {
    return this.page.getByLabel('Find by name, phone or pass');
  }
  /** What the door says of whoever is looked at. */
  get answer(): Locator {
    return this.page.locator('.lamp');
  }
  row = (name: string): Locator => this.page.getByRole('listitem').filter({ hasText: name });

  /** Types the code of a pass, as a scanner with a keyboard does. */
  async scan(code: string): Promise<void> {
    await this.search.fill(code);
    await this.page.keyboard.press('Enter');
  }
  arrive = (name: string): Promise<void> => this.row(name).getByRole('button', { name: 'Arrive' }).click();
  undo = (name: string): Promise<void> => this.row(name).getByRole('button', { name: 'Undo' }).click();

  /** Waits until so many of so many have arrived; another device is told within the time. */
  arrived(words: string, timeout?: number): Promise<void> {
    return expect(this.page.getByRole('status').filter({ hasText: `${words} arrived` })).toBeVisible(
      timeout ? { timeout } : undefined,
    );
  }
}
