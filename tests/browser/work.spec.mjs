import { accessible, expect, own, shown, signIn, test } from './world.mjs';

/**
 * Eight jobs of a day by their shortest way, each counted: a press of the mouse, a key or a chord is one; a text is one, however long.
 * docs/decisions.md says what they took before, where that is known; what takes more than is written here fails.
 */
class Hand {
  constructor(page) {
    this.page = page;
    this.presses = 0;
  }

  /** A page that is still coming has no keys yet. */
  async ready() {
    await this.page.locator('html[data-ready]').waitFor();
  }

  async click(locator) {
    await this.ready();
    this.presses++;
    await locator.click();
  }

  async keys(...keys) {
    for (const key of keys) {
      await this.ready();
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

job('carve a subnet, place a host, ask for it', 12, async (page, hand) => {
  await hand.keys('g', 'p');
  await hand.click(page.getByRole('link', { name: 'Tarbeck', exact: true }).first());
  await expect(page.locator('h1')).toHaveText('Tarbeck');
  await hand.keys('n');
  await hand.type('Job hall');
  await hand.keys('Tab');
  await hand.type('100');
  await page.locator('#carve-length').focus();
  // The size follows from the hosts, the place from the size, and what follows from both.
  await expect(page.locator('#carve-length')).toHaveValue('25');
  await expect(page.locator('.follows')).toContainText('Job hall');
  await expect(page.locator('.follows')).toContainText('/25');
  await hand.commit();
  await expect(page.locator('h1')).toHaveText('Job hall');
  await hand.keys('n');
  await hand.type(own('job-scales'));
  await expect(page.locator('#follows-place')).toContainText('Forward and reverse agree');
  await hand.commit();
  // The notice offers what comes next: ship, ask, another, back.
  const ask = page.locator('[data-step]', { hasText: 'Ask for it' });
  await hand.keys((await ask.locator('kbd').textContent()).trim());
  await expect(page).toHaveURL(/lookup.*job-scales/);
});

job('change three records', 14, async (page, hand) => {
  await page.goto('/name?filter=gates.kittiwake');
  await page.getByRole('link', { name: 'gates.kittiwake.example', exact: true }).first().click();
  await page.locator('summary', { hasText: 'Paste records' }).click();
  const name = own('job');
  await page.fill('#paste-text', `${name}-a A 10.36.8.231\n${name}-b A 10.36.8.232\n${name}-c A 10.36.8.233\n`);
  await shown(page);
  await page.locator('#follows-paste').getByRole('button', { name: 'Commit now' }).click();
  await expect(page.getByRole('status')).toContainText('done');
  await page.goto('/bridge');
  await hand.find('gates.kittiwake.example');
  await expect(page.locator('h1')).toHaveText('gates.kittiwake.example');
  await hand.keys('f');
  await hand.type(`${name}-`);
  await hand.keys('Enter');
  await expect(page).toHaveURL(/filter=job/);
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
  await hand.find('10.36.72.0/22');
  await hand.click(page.locator('summary', { hasText: 'Place several' }).first());
  await expect(page.locator('#several-names')).toBeVisible();
  await page.locator('#several-names').focus();
  await hand.type(Array.from({ length: 30 }, (_, i) => `${own('job-till')}-${i + 1}`).join('\n'));
  await hand.commit();
  await expect(page.locator('main')).toContainText(`${own('job-till')}-30`);
});

job('make a scope, ship it to both servers and try it', 9, async (page, hand) => {
  // A second try takes the subnet beside it.
  await hand.find(test.info().retry ? '10.32.24.0/25' : '10.32.23.0/24');
  await hand.click(page.getByRole('link', { name: 'make one', exact: true }));
  await expect(page.locator('#makescope-ranges')).toHaveValue(/^all but the first /);
  await expect(page.locator('#follows-makescope')).toContainText('on tide2');
  await hand.commit();
  await hand.keys('1');
  await expect(page.locator('h1')).toHaveText('Ship together');
  await expect(page.locator('.follows')).toContainText('Ship to tide1, tide2');
  await accessible(page);
  await hand.keys('Control+Enter');
  await expect(page.getByRole('status')).toContainText('as intended on tide1 and tide2', { timeout: 60000 });
  await hand.keys('1');
  await expect(page.locator('main')).toContainText('the next free one of');
  await hand.keys('Control+Shift+Enter');
  await expect(page.locator('main')).toContainText('As computed: what was given, and every option byte for byte.', { timeout: 30000 });
});

job('find all about an address', 3, async (page, hand) => {
  await hand.keys('/');
  await hand.type('10.36.8.2');
  await hand.click(page.getByRole('link', { name: /Everything found/ }));
  await expect(page.locator('main')).toContainText('What it is');
});

job('resolve a conflict: theirs beside mine, mine on top', 4, async (page, hand) => {
  await page.goto('/directory/vlans');
  await page.locator('main a[href^="/directory/vlan/"]').nth(2).click();
  await expect(page.locator('#editvlan-description')).toBeVisible();
  const context = await page.context().browser().newContext();
  const other = await context.newPage();
  await signIn(other);
  await other.goto(page.url());
  await other.fill('#editvlan-description', 'theirs');
  await shown(other);
  await other.locator('#follows-editvlan').getByRole('button', { name: 'Commit now' }).click();
  await expect(other.getByRole('status')).toContainText('done');
  await context.close();
  await page.locator('#editvlan-description').focus();
  await hand.keys('Control+a');
  await hand.type('mine');
  await expect(page.locator('#follows-editvlan .beside')).toContainText('theirs');
  await hand.click(page.locator('#follows-editvlan').getByRole('checkbox'));
  await expect(page.locator('#follows-editvlan .wake')).toContainText('theirs → mine');
  await hand.commit();
});

job('take back what was just done', 2, async (page, hand) => {
  await page.goto('/name?filter=gates.kittiwake');
  await page.getByRole('link', { name: 'gates.kittiwake.example', exact: true }).first().click();
  await page.waitForLoadState();
  await page.fill('#rowadd-name', own('job-undone'));
  await page.fill('#rowadd-data', '10.36.8.249');
  await shown(page);
  await page.getByRole('button', { name: 'Commit now' }).click();
  await expect(page.getByRole('status')).toContainText('done');
  await page.locator('h1').click();
  await hand.keys((await page.locator('[data-step]', { hasText: 'Take it back' }).locator('kbd').textContent()).trim());
  await expect(page.locator('h1')).toContainText('Take back');
  await hand.commit();
});

job('mend a drift: take into the plan what a server says', 4, async (page, hand) => {
  await hand.click(page.getByRole('link', { name: /object on tide2 is not as it is meant/ }));
  await hand.click(page.getByRole('link', { name: /Take into the plan/ }).first());
  await hand.click(page.locator('main input[type=checkbox]').first());
  await hand.click(page.getByRole('button', { name: /^Take/ }).first());
  await expect(page.getByRole('status')).toContainText('What was chosen is in the plan now');
});
