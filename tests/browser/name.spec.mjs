import { accessible, commit, expect, ships, signIn, test } from './world.mjs';

/** The page of a zone, by its name and view. */
async function zone(page, name, view = 'shore') {
  await page.goto(`/name?filter=${name}`);
  await page
    .locator('tr', { has: page.locator('td', { hasText: new RegExp(`^${view}$`) }) })
    .getByRole('link', { name, exact: true })
    .first()
    .click();
  await expect(page.locator('h1')).toHaveText(name);
}

test('records are pasted, edited all at once, and undone', async ({ page }) => {
  await signIn(page);
  await zone(page, 'retail.kittiwake.example');
  await page.fill('#record-name', 'Kiosk-9');
  await expect(page.locator('main')).toContainText('kiosk-9.retail.kittiwake.example');
  await page.locator('summary', { hasText: 'Paste records' }).click();
  await page.fill('#paste-text', 'kiosk-91 A 10.36.16.91\nkiosk-92 A 10.36.16.300\n');
  await page.press('#paste-text', 'Tab');
  await expect(page.locator('#follows-paste')).toContainText('Line 2, column');
  await page.fill('#paste-text', 'kiosk-91 A 10.36.16.91\nkiosk-92 300 A 10.36.16.92\n');
  await page.press('#paste-text', 'Tab');
  await expect(page.locator('#follows-paste')).toContainText('10.36.16.92');
  await commit(page.locator('#follows-paste'));
  await expect(page.getByRole('status')).toContainText('done');
  await page.goto(`${page.url().split('?')[0]}?filter=kiosk-9`);
  await page.getByLabel('Pick all').check();
  await page.getByRole('button', { name: 'Edit all' }).click();
  await page.fill('#bulkrec-ttl', '10m');
  await page.press('#bulkrec-ttl', 'Tab');
  await expect(page.locator('#follows-bulkrec')).toContainText('Change 2 records');
  await accessible(page);
  await commit(page.locator('#follows-bulkrec'));
  await expect(page.getByRole('status')).toContainText('done');
  await page.locator('summary', { hasText: 'Changed lately' }).click();
  await page
    .getByRole('button', { name: /^Undo: changed/ })
    .first()
    .click();
  await commit(page);
  await expect(page.getByRole('status')).toContainText('done');
});

test('a secondary is brought into service, step by step', async ({ page }) => {
  await signIn(page);
  await zone(page, 'quaynet.kittiwake.example');
  await page.getByRole('link', { name: 'Service' }).click();
  await expect(page.locator('main')).toContainText('held up here');
  await accessible(page);
  const service = page.url();
  // First the primary, so that the secondary may copy; then the secondary, which is told where to fetch.
  for (const server of ['lamp1', 'lamp2']) {
    await page.getByRole('link', { name: 'Go there' }).first().click();
    await expect(page.locator('h1')).toHaveText(server);
    await ships(page, () => page.getByRole('button', { name: 'Ship and verify' }).click(), '1 of 1 shipped and proved');
    await page.goto(service);
  }
  await expect(page.locator('main')).toContainText('its SOA came back with AA');
  await page.getByRole('button', { name: 'List it as NS' }).click();
  await commit(page);
  await expect(page.getByRole('status')).toContainText('done');
  await expect(page.locator('main')).not.toContainText('NS planned');
});

test('what clients registered is looked at and taken into the plan', async ({ page }) => {
  await signIn(page);
  await zone(page, 'crew.kittiwake.example');
  await page.getByRole('link', { name: 'Service' }).click();
  await page.getByRole('link', { name: 'Look at what changed' }).click();
  await expect(page.locator('main')).toContainText('phone-40.crew.kittiwake.example');
  await accessible(page);
  await page.getByRole('button', { name: /^Take all/ }).click();
  await expect(page.getByRole('status')).toContainText('taken into the plan');
  await page.getByRole('link', { name: 'phone-20', exact: true }).click();
  await expect(page.locator('main')).toContainText('lapses unless it is renewed');
  await accessible(page);
});

test('the path of a question is computed and tried with a server switched off', async ({ page }) => {
  await signIn(page);
  await page.goto('/name/resolvers?client=10.36.8.20&name=www.example.net');
  await expect(page.locator('main')).toContainText('Computed: By the roots');
  await page.getByLabel('mole1').last().check();
  await page.getByRole('button', { name: 'Compute' }).click();
  await expect(page.locator('main')).toContainText('talks to the internet itself');
  await page.getByRole('button', { name: 'Try it on the stand-ins' }).click();
  await expect(page.locator('main')).toContainText('Observed: By the roots');
  await accessible(page);
});

test('forward and reverse are compared, and what differs is mended', async ({ page }) => {
  await signIn(page);
  await page.goto('/name/sweep');
  await page.getByRole('button', { name: /^Compare/ }).click();
  await expect(page.locator('main')).toContainText('done,', { timeout: 30000 });
  await page.getByRole('link', { name: /PTR without a name/ }).click();
  await expect(page.locator('#sweep-body')).not.toHaveAttribute('hx-get', /./);
  await page.locator('.pick').first().check();
  await expect(page.locator('.follows')).toContainText('disagreements are mended');
  await accessible(page);
  await commit(page);
  await expect(page.getByRole('status')).toContainText('done');
});

test('somebody with a right on one name edits it and nothing else', async ({ page }) => {
  await signIn(page, 'wick');
  await zone(page, 'kittiwake.example');
  await page.goto(`${page.url()}?filter=timetable`);
  await expect(page.locator('.pick')).toHaveCount(1);
  await page.goto(`${page.url().split('?')[0]}?filter=mail`);
  await expect(page.locator('.pick')).toHaveCount(0);
});

test('a zone is checked, and a finding leads to its mending', async ({ page }) => {
  await signIn(page);
  await zone(page, 'kittiwake.example');
  await page.getByRole('link', { name: 'Check', exact: true }).click();
  await expect(page.locator('main')).toContainText('timetable');
  await accessible(page);
});
