import { accessible, expect, open, own, shown, signIn, test } from './world.mjs';

/** Everything here happens on one page: a full load would forget this mark. */
const mark = (page) =>
  page.evaluate(() => {
    window.sameDocument = true;
  });
const same = (page) => page.evaluate(() => window.sameDocument === true);

test('records are edited row by row by keyboard, without the page being left', async ({ page }) => {
  await signIn(page);
  await page.goto('/name?filter=gates.kittiwake');
  await page.getByRole('link', { name: 'gates.kittiwake.example', exact: true }).first().click();
  await expect(page.locator('h1')).toHaveText('gates.kittiwake.example');
  // The row at the foot adds, and stays where it is for the next one.
  for (const [name, address] of [
    ['arm-1', '10.36.8.241'],
    ['arm-2', '10.36.8.242'],
  ]) {
    await page.fill('#rowadd-name', name);
    await page.fill('#rowadd-data', address);
    await shown(page);
    await expect(page.locator('#follows-rowadd')).toContainText(address);
    await page.getByRole('button', { name: 'Commit now' }).click();
    // The page is not left: the row that comes anew is blank.
    await expect(page.locator('#rowadd-name')).toHaveValue('');
    await expect(page.getByRole('status')).toContainText('done');
  }
  await page.goto(`${page.url().split(/[?#]/)[0]}?filter=arm`);
  await mark(page);
  await page.getByLabel('Pick A arm-1').focus();
  await page.keyboard.press('F2');
  const row = page.locator('tr.editing');
  await expect(row.locator('#e-name')).toHaveValue('arm-1');
  await expect(page.locator(':focus')).toHaveValue('10.36.8.241');
  await page.keyboard.type('10.36.8.243');
  await expect(row).toContainText('was 10.36.8.241');
  await shown(page);
  await expect(page.locator('#follows-record')).toContainText('10.36.8.243');
  await accessible(page);
  // What follows stands beside the table, which keeps its width.
  const [table, follows] = await Promise.all([page.locator('table.work').boundingBox(), page.locator('.follows').boundingBox()]);
  expect(table.x + table.width).toBeLessThanOrEqual(follows.x + 1);
  await page.keyboard.press('Control+Shift+Enter');
  await expect(page.getByRole('status')).toContainText('done');
  await expect(page.locator('tr.editing #e-name')).toHaveValue('arm-2');
  await expect(page.locator('table.work')).toContainText('10.36.8.243');
  await page.keyboard.press('Escape');
  await expect(page.locator('tr.editing')).toHaveCount(0);
  await expect(page.locator(':focus')).toHaveAttribute('aria-label', 'Edit A arm-2');
  expect(await same(page)).toBe(true);
  expect(page.url()).toContain('filter=arm');
});

test('hosts, prefixes and reservations are edited in their rows too', async ({ page }) => {
  await signIn(page);
  await open(page, 'Ticketing, quay 1', 'Ticketing, quay 1');
  await mark(page);
  await page.locator('table[data-worktable] tbody .pick').first().focus();
  await page.keyboard.press('Enter');
  await page.locator('tr.editing #changehost-mac').fill('00:00:5e:00:53:f1');
  await shown(page);
  await expect(page.locator('#follows-changehost')).toContainText('00:00:5e:00:53:f1');
  await page.keyboard.press('Escape');
  await expect(page.locator('tr.editing')).toHaveCount(0);
  expect(await same(page)).toBe(true);
  // A place by the row at the foot: the next free address, with its name both ways.
  await page.fill('#rowadd-name', own('arm-9'));
  await shown(page);
  await expect(page.locator('#follows-rowadd')).toContainText('PTR');
  await page.getByRole('navigation', { name: 'Above' }).getByRole('link').last().click();
  await page.locator('table[data-worktable] tbody .pick').first().focus();
  await page.keyboard.press('F2');
  await page.locator('tr.editing #rowform-name').fill('Renamed in its row');
  await shown(page);
  await expect(page.locator('#follows-rowform')).toContainText('Renamed in its row');
  await accessible(page);
  await page.keyboard.press('Escape');
  await expect(page.locator('tr.editing')).toHaveCount(0);
});

test('an empty row at the foot adds to zones, prefixes and lists of the directory, and stays for the next', async ({ page }) => {
  await signIn(page, 'maren');
  const add = async (name, more = {}) => {
    await page.fill('#rowadd-name', name);
    for (const [field, text] of Object.entries(more)) await page.fill(`#rowadd-${field}`, text);
    await expect(page.locator('#follows-rowadd')).toContainText(name.split('.')[0]);
    await shown(page);
    await page.keyboard.press('Control+Shift+Enter');
    await expect(page.getByRole('status')).toContainText('done');
    // In the row again, empty: for the next one.
    await expect(page.locator('#rowadd-name')).toHaveValue('');
    await expect(page.locator('tr.addrow input').first()).toBeFocused();
  };
  await page.goto('/directory/devices');
  await add(own('foot-switch'), { kind: 'switch' });
  await expect(page.locator('tr', { hasText: own('foot-switch') })).toContainText('switch');
  await page.goto('/name');
  await add(`${own('foot')}.kittiwake.example`);
  await expect(page.locator('tbody tr', { hasText: `${own('foot')}.kittiwake.example` })).toContainText('lamp1, lamp2');
  await accessible(page);
  await open(page, '10.36.0.0/15', 'Tarbeck');
  const prefix = `10.37.22${test.info().retry}.0/24`;
  await add(own('Foot hall'), { prefix });
  await expect(page.locator('tbody tr', { hasText: own('Foot hall') })).toContainText(prefix);
});

test('zones, scopes, people and servers are edited in their rows', async ({ page }) => {
  await signIn(page);
  const into = async (list, row) => {
    await page.goto(list);
    await mark(page);
    await page.getByRole('link', { name: row, exact: true }).focus();
    await page.keyboard.press('Enter');
    await expect(page.locator('tr.editing')).toHaveCount(1);
  };
  const written = async (field, value, follows, looked = true) => {
    await page.locator(field).fill(value);
    await shown(page);
    await expect(page.locator(follows)).toContainText('→');
    if (looked) await accessible(page);
    const reason = page.locator('.follows [name=reason]:visible');
    if (await reason.count()) await reason.fill('seen and wanted');
    await page.getByRole('button', { name: /(Commit|Change) now/ }).click();
    await expect(page.getByRole('status')).toContainText('done');
    expect(await same(page)).toBe(true);
  };
  await into('/name?filter=dunlin', 'Edit dunlin.kittiwake.example');
  await written('#changezone-defaultTtl', `${31 + (Date.now() % 25)}m`, '#follows-changezone');
  await into('/lease?filter=Voice%2C+Orrin', 'Edit Voice, Orrin Pier');
  await written('#changescope-leaseTime', `${300 + (Date.now() % 50)}m`, '#follows-changescope');
  await signIn(page, 'sable');
  await into('/directory/people?filter=wick', /^Edit Wick Soames/);
  await expect(page.getByRole('checkbox', { name: 'reader', exact: true })).toBeChecked();
  await written('#changeit-name', `Wick Soames ${Date.now() % 100}`, '#follows-changeit');
  // Others know the person by the name of before.
  await into('/directory/people?filter=wick', /^Edit Wick Soames/);
  await written('#changeit-name', 'Wick Soames', '#follows-changeit', false);
  await into('/ship?filter=mole', 'Edit mole1');
  await expect(page.locator('#changeserver-site')).toHaveValue('Orrin Pier');
  await page.keyboard.press('Escape');
  await expect(page.locator('tr.editing')).toHaveCount(0);
});

test('columns are chosen, rows brought close, and both are kept', async ({ page }) => {
  await signIn(page, 'wick');
  await page.goto('/directory/vlans');
  const head = page.getByRole('columnheader', { name: 'Ports', exact: true });
  await expect(head).toBeVisible();
  await page.locator('.columns summary').first().click();
  await page.getByLabel('Ports', { exact: true }).uncheck();
  await page.getByLabel('rows close together').check();
  await accessible(page);
  await page.locator('.columns').getByRole('button', { name: 'Keep' }).click();
  await expect(head).toBeHidden();
  await expect(page.locator('html')).toHaveAttribute('data-dense', '');
  await page.goto('/directory/vlans');
  await page.locator('.columns summary').first().click();
  await page.getByLabel('Ports', { exact: true }).check();
  await page.getByLabel('rows close together').uncheck();
  await page.locator('.columns').getByRole('button', { name: 'Keep' }).click();
  await expect(head).toBeVisible();
});

test('zones inside zones, copies of a zone and the way of a DISCOVER are drawn', async ({ page }) => {
  await signIn(page);
  await page.goto('/name/tree');
  await expect(page.locator('.joined')).toBeVisible();
  await accessible(page);
  await page.goto('/name/tree?under=kittiwake.example');
  await page.locator('.joined a').first().focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('h1')).toHaveText('kittiwake.example');
  await page.getByRole('link', { name: 'Service' }).click();
  await expect(page.locator('.joined')).toContainText('the reference');
  await accessible(page);
  await page.goto('/lease?filter=Deck');
  await page.locator('main').getByRole('link', { name: 'Deck Wi-Fi, Orrin Pier', exact: true }).first().click();
  await expect(page.locator('.joined')).toContainText('no relay leads to it');
  await accessible(page);
});
