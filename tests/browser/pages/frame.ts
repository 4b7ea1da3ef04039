import { expect, type Page } from '@playwright/test';

/** The frame of the coordinator's application: places, stages, search, clock. */
export class FrameOf {
  constructor(readonly page: Page) {}

  /** Goes to a stage of the event that is open. */
  async stage(name: string): Promise<void> {
    await this.page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name }).click();
  }

  /** Moves the clock of the demonstration to a wall time of the organization. */
  async moveClock(to: string): Promise<void> {
    await this.page.getByTitle('Move the clock').click();
    await this.page.getByLabel('To a date and time').fill(to);
    await this.page.getByRole('button', { name: 'Move', exact: true }).click();
    await expect(this.page.getByText(/^(Done:|Nothing came due)/u)).toBeVisible();
    await this.page.getByRole('button', { name: 'Close' }).click();
  }

  /** Finds a person from anywhere and opens their record beside the page. */
  async find(words: string, name: string) {
    await this.page.keyboard.press('/');
    await this.page.keyboard.type(words);
    // Enter takes what is marked: that comes a moment after what was found.
    await expect(this.page.getByRole('option').filter({ hasText: name })).toHaveAttribute(
      'data-highlighted',
      '',
    );
    await this.page.keyboard.press('Enter');
    const beside = this.page.getByRole('dialog');
    await expect(beside.getByRole('heading', { name })).toBeVisible();
    return beside;
  }
}
