import { accessible, expect, open, shown, signIn, test } from './world.mjs';

test('the find field answers while one types, walks by arrows and takes commands', async ({ page }) => {
  await signIn(page);
  await page.keyboard.press('/');
  await page.keyboard.type('10.36.8.2');
  const first = page.locator('#quick a').first();
  await expect(first).toContainText('10.36.8.2');
  await accessible(page);
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/address=10\.36\.8\.2/);
  await page.keyboard.press('/');
  await page.keyboard.type('place host in Ticketing');
  await expect(page.locator('#quick a').first()).toContainText('place host in');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/#place$/);
  await expect(page.locator('#place')).toBeVisible();
  await page.keyboard.press('/');
  await page.keyboard.type('zz-nothing');
  await expect(page.locator('#quick')).toContainText('Nothing begins so yet');
  await page.keyboard.press('Escape');
});

test('one key stands in the form that a page is for, and What follows keeps up beside it', async ({ page }) => {
  await signIn(page);
  await open(page, 'Ticketing, quay 1', 'Ticketing, quay 1');
  await page.waitForLoadState('networkidle');
  await page.keyboard.press('n');
  await expect(page.locator('#place-name')).toBeFocused();
  await page.keyboard.type('gangway-key');
  const follows = page.locator('#follows-place .follows');
  await expect(follows).toContainText('gangway-key');
  await expect(page.locator('#place-name')).toBeFocused();
  await expect(follows.getByRole('button', { name: 'Commit now' })).toBeInViewport();
  await expect(page.locator('#place-name')).toBeInViewport();
  await expect(page.locator('#follows-said')).toContainText('rows written');
  await accessible(page);
  // What cannot be written is said without leaving the page, and what was typed stays.
  await page.fill('#place-address', '10.99.0.1');
  await shown(page);
  await expect(follows).toContainText('is not in');
  await expect(page.locator('#place-name')).toHaveValue('gangway-key');
  await page.keyboard.press('Escape');
  await expect(follows).toHaveCount(0);
  await page.locator('h1').click();
  await page.keyboard.press('g');
  await page.keyboard.press('s');
  await expect(page).toHaveURL(/\/ship$/);
});

test('who saves second sees theirs beside mine and writes on top of what was seen', async ({ page, browser }) => {
  await signIn(page);
  await page.goto('/directory/vlans');
  await page.locator('main a[href^="/directory/vlan/"]').last().click();
  await expect(page.locator('#editvlan-description')).toBeVisible();
  const context = await browser.newContext();
  const other = await context.newPage();
  await signIn(other, 'maren');
  await other.goto(page.url());
  await other.fill('#editvlan-description', 'theirs');
  await shown(other);
  await other.locator('#follows-editvlan').getByRole('button', { name: 'Commit now' }).click();
  await expect(other.getByRole('status')).toContainText('done');
  await context.close();
  await page.fill('#editvlan-description', 'mine');
  const beside = page.locator('#follows-editvlan .beside');
  await expect(beside).toContainText('theirs');
  await expect(beside).toContainText('mine');
  await accessible(page);
  await page.locator('#follows-editvlan').getByRole('checkbox').check();
  await expect(page.locator('#follows-editvlan .wake')).toContainText('theirs → mine');
  await page.locator('#follows-editvlan').getByRole('button', { name: 'Commit now' }).click();
  await expect(page.getByRole('status')).toContainText('done');
  await expect(page.locator('#editvlan-description')).toHaveValue('mine');
});

test('heads stay in sight, and a figure is copied by a click or a key', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page);
  await open(page, 'Ticketing, quay 1', 'Ticketing, quay 1');
  await page.waitForLoadState('networkidle');
  await page.evaluate(() => document.getElementById('sheet').scrollTo(0, 1500));
  await expect(page.locator('table[data-worktable] thead th', { hasText: 'MAC' }).first()).toBeInViewport();
  const mac = page.locator('td.mono', { hasText: /^00:00:5e/ }).nth(40);
  await mac.hover();
  await page.locator('button.copy').click();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe((await mac.innerText()).trim());
  await page.locator('table[data-worktable] tbody a').first().focus();
  await page.keyboard.press('c');
  await expect(page.locator('#follows-said')).toHaveText(/^copied 10\./);
});

test('what follows keeps up while the reason for a warning is still missing', async ({ page }) => {
  await signIn(page);
  await page.goto('/name?filter=dunlin');
  await page.getByRole('link', { name: 'dunlin.kittiwake.example', exact: true }).click();
  await page.fill('#rowadd-name', 'kept-up');
  await page.fill('#rowadd-data', '10.46.0.7');
  await page.fill('#rowadd-ttl', '0');
  await shown(page);
  const follows = page.locator('#follows-rowadd');
  await expect(follows.locator('[name=reason]')).toBeVisible();
  await page.fill('#rowadd-data', '10.46.0.8');
  await shown(page);
  await expect(follows).toContainText('10.46.0.8');
  // Sent without it, the field that is missing is shown, and nothing is written.
  await page.keyboard.press('Control+Shift+Enter');
  await expect(follows.locator('[name=reason]')).toBeFocused();
  await follows.locator('[name=reason]').fill('seen and wanted');
  await page.keyboard.press('Control+Shift+Enter');
  await expect(page.getByRole('status')).toContainText('done');
});

test('all that match are taken beyond the page, and rows that are picked ask for nothing yet', async ({ page }) => {
  await signIn(page);
  await open(page, 'CCTV, quay 2', 'CCTV, quay 2');
  const picked = page.locator('[data-picked]').first();
  await page.check('[data-pick-all]');
  await expect(picked).not.toHaveText('0');
  await page.check('[data-all]');
  await expect(picked).toHaveText('300');
  await expect(page.locator('.follows')).toHaveCount(0);
  // One row less is not all that match any more.
  await page.locator('tbody .pick').first().uncheck();
  await expect(page.locator('[data-all]')).not.toBeChecked();
  await page.check('[data-all]');
  await page.getByRole('button', { name: 'Release', exact: true }).click();
  const follows = page.locator('#follows-hostbulk .follows');
  await expect(follows).toContainText('Release 300 hosts');
  await expect(follows).toContainText('records removed');
  await accessible(page);
  await page.keyboard.press('Escape');
  await page.getByText('Edit all picked hosts').click();
  await page.fill('#hostbulk-owner', 'Ferry office');
  await expect(page.locator('#follows-hostbulk .follows')).toContainText('Change 300 hosts');
});
