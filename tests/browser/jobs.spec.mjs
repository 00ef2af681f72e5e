import { expect, shown, signIn, test } from './world.mjs';

/**
 * Eight jobs of a day by their shortest way, each counted: a press of the mouse, a key or a chord is one; a text is one, however long.
 * docs/decisions.md says what they took before; what takes more than is written here fails.
 */
class Hand {
  constructor(page) {
    this.page = page;
    this.presses = 0;
  }

  async click(locator) {
    this.presses++;
    await locator.click();
  }

  async keys(...keys) {
    for (const key of keys) {
      this.presses++;
      await this.page.keyboard.press(key);
    }
  }

  async type(text) {
    this.presses++;
    await this.page.keyboard.type(text);
  }

  /** Finds what is exact, by the one field. */
  async find(text) {
    await this.keys('/');
    await this.type(text);
    await expect(this.page.locator(`#quick [data-exact="${text}"]`).first()).toBeVisible();
    await this.keys('Enter');
    await this.page.waitForLoadState();
  }

  /** Writes what is shown, without the draft between. */
  async commit() {
    await shown(this.page);
    const reason = this.page.locator('.follows [name=reason]:visible');
    if (await reason.count()) {
      await this.click(reason.first());
      await this.type('seen and wanted');
    }
    await this.keys('Control+Shift+Enter');
    await expect(this.page.getByRole('status')).toContainText('done');
  }
}

const job = (title, most, work) =>
  test(`${title} takes ${most} presses`, async ({ page }) => {
    await signIn(page);
    await page.goto('/bridge');
    const hand = new Hand(page);
    await work(page, hand);
    expect(hand.presses).toBe(most);
  });

job('carve a subnet, place a host, ask for it', 14, async (page, hand) => {
  await hand.keys('g', 'p');
  await hand.click(page.getByRole('link', { name: 'Tarbeck', exact: true }).first());
  await hand.keys('n');
  await hand.type('Job hall');
  await hand.keys('Tab');
  await hand.type('100');
  await page.locator('#carve-length').focus();
  await hand.commit();
  await expect(page.locator('h1')).toHaveText('Job hall');
  await hand.keys('n');
  await hand.type('job-scales');
  await expect(page.locator('#follows-place')).toContainText('Forward and reverse agree');
  await hand.commit();
  // The notice offers what comes next: ship, ask, another, back.
  const ask = page.locator('[data-step]', { hasText: 'Ask for it' });
  await hand.keys((await ask.locator('kbd').textContent()).trim());
  await expect(page).toHaveURL(/lookup.*job-scales/);
  expect(hand.presses).toBeLessThanOrEqual(14);
});

job('change three records', 15, async (page, hand) => {
  await hand.find('gates.kittiwake.example');
  await expect(page.locator('h1')).toHaveText('gates.kittiwake.example');
  await hand.keys('f');
  await hand.type('type:a');
  await hand.keys('Enter');
  await expect(page).toHaveURL(/filter=type/);
  await page.locator('#filter').focus();
  await hand.keys('ArrowDown', 'F2');
  for (let i = 0; i < 3; i++) {
    await expect(page.locator('tr.editing')).toHaveCount(1);
    const before = await page.locator('tr.editing').getAttribute('data-row');
    const field = page.locator('tr.editing input[name^=fields]');
    await expect(field).toBeFocused();
    const next = (await field.inputValue()).replace(/\d+$/, (n) => String(Number(n) + 1));
    await hand.type(next);
    await hand.commit();
    await expect(page.locator(`tr.editing[data-row="${before}"]`)).toHaveCount(0);
  }
});

job('place thirty hosts from a list', 6, async (page, hand) => {
  await hand.find('Ticketing, quay 2');
  await hand.click(page.locator('summary', { hasText: 'Place several' }).first());
  await expect(page.locator('#several-names')).toBeVisible();
  await page.locator('#several-names').focus();
  await hand.type(Array.from({ length: 30 }, (_, i) => `job-till-${i + 1}`).join('\n'));
  await hand.commit();
  await expect(page.locator('main')).toContainText('job-till-30');
});

job('find all about an address', 3, async (page, hand) => {
  await hand.keys('/');
  await hand.type('10.36.8.2');
  await hand.click(page.getByRole('link', { name: /Everything found/ }));
  await expect(page.locator('main')).toContainText('What it is');
});
