import { accessible, commit, expect, open, own, pick, ships, shown, signIn, test } from './world.mjs';

test('from a subnet to a packet: carve, place, ship, ask', async ({ page }) => {
  const [office, scales] = [own('Parcel office'), own('scales-1')];
  await signIn(page);
  await open(page, '10.36.0.0/15', 'Tarbeck');
  await page.fill('#carve-name', office);
  await page.fill('#carve-hosts', '200');
  await page.press('#carve-hosts', 'Tab');
  await expect(page.locator('#carve-length')).toHaveValue('24');
  await expect(page.locator('.follows')).toContainText('Overlaps nothing live, planned or withheld');
  await commit(page.locator('.follows'));
  await expect(page.getByRole('status')).toContainText(`Carve ${office}`);
  await expect(page.locator('h1')).toHaveText(office);
  const address = (await page.locator('.title .mono').first().textContent()).replace('.0/24', '.2');

  await page.fill('#place-name', scales);
  await pick(page, '#place-zone', 'tarbeck.kittiwake.example', 'shore');
  await expect(page.locator('#follows-place')).toContainText('Forward and reverse agree');
  await shown(page);
  await page.keyboard.press('Control+Shift+Enter');
  await expect(page.getByRole('status')).toContainText(address);
  await expect(page.locator('tr', { hasText: scales })).toContainText('A PTR');

  await open(page, 'tarbeck.kittiwake.example', 'tarbeck.kittiwake.example');
  await expect(page.locator('.title')).toContainText('changes wait');
  await page.fill('#filter', 'scales');
  await page.press('#filter', 'Enter');
  await expect(page.locator('tr', { hasText: scales })).toContainText('saved, not shipped');

  await page.goto('/ship');
  await page.getByRole('link', { name: 'lamp1', exact: true }).click();
  await expect(page.locator('.diffs', { hasText: `${scales}.tarbeck.kittiwake.example.` }).first()).toBeVisible();
  await ships(page, () => page.keyboard.press('Control+Enter'), 'shipped and proved');
  // The secondary is told and fetches by itself.
  await page.locator('summary', { hasText: 'Shipment' }).first().click();
  await expect(page.locator('main')).toContainText('lamp2 fetched it');
  await page.goto('/ship');
  await page.getByRole('link', { name: 'lamp2', exact: true }).click();
  await expect(page.locator('.diffs', { hasText: `${scales}.tarbeck.kittiwake.example.` })).toHaveCount(0);
  await page.goto(`/name/lookup?q=${scales}.tarbeck.kittiwake.example`);
  await expect(page.locator('main')).toContainText('with authority');
  await expect(page.locator('td', { hasText: address })).toBeVisible();
  await page.goto(`/find?q=${address}`);
  await expect(page.locator('main')).toContainText(`${scales}.tarbeck.kittiwake.example`);
  await expect(page.locator('main')).toContainText(office);
});

test('a wrong prefix is marked and mended on one key', async ({ page }) => {
  await signIn(page);
  await open(page, '10.36.0.0/15', 'Tarbeck');
  await page.fill('#carve-prefix', '10.37.9.1/24');
  await page.press('#carve-prefix', 'Tab');
  await expect(page.locator('#carve-prefix')).toHaveAttribute('aria-invalid', 'true');
  await page.getByRole('button', { name: 'Take 10.37.9.0/24' }).press('Enter');
  await expect(page.locator('#carve-prefix')).toHaveValue('10.37.9.0/24');
  await expect(page.locator('.follows')).toContainText('Starts on a /24 boundary');
});

test('open space is chosen on the ruler by keyboard', async ({ page }) => {
  await signIn(page);
  await open(page, '10.36.0.0/15', 'Tarbeck');
  const openBlock = page.locator('.lane').last().locator('a[data-choose-prefix]').first();
  await openBlock.focus();
  const wanted = await openBlock.getAttribute('data-choose-prefix');
  await page.keyboard.press('Enter');
  await expect(page.locator('#carve-prefix')).toHaveValue(wanted);
  await page.locator('.lane').last().locator('a').first().focus();
  await page.keyboard.press('ArrowRight');
  expect(await page.evaluate(() => document.activeElement.querySelector('title').textContent)).toContain('quay 2');
});

test('a draft is kept, marked, rehearsed and committed as one', async ({ page }) => {
  await signIn(page);
  await open(page, '10.44.0.0/16', 'Ebb Cove');
  await page.fill('#carve-name', 'Slip 2 store');
  await page.press('#carve-name', 'Tab');
  await expect(page.locator('.follows')).toContainText('Slip 2 store');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('status')).toContainText('is in the draft');
  await page.getByRole('link', { name: 'Rehearse' }).click();
  await expect(page.locator('main')).toContainText('none of them true yet');
  await accessible(page);
  await page.getByRole('button', { name: 'Commit as one' }).click();
  await expect(page.getByRole('status')).toContainText('The draft is committed: ');
  await page.goto('/find?q=Slip+2');
  await expect(page.locator('main')).toContainText('Slip 2 store');
});

test('a record is edited in its row', async ({ page }) => {
  await signIn(page, 'ilke');
  await page.goto('/name?filter=crew');
  await page.getByRole('link', { name: 'crew.kittiwake.example', exact: true }).click();
  await page.fill('#record-name', 'mess');
  await page.getByLabel('IPv4 address').fill('10.45.0.300');
  await page.getByLabel('IPv4 address').press('Tab');
  await expect(page.locator('.follows')).toContainText('an octet from 0 to 255');
  await page.getByLabel('IPv4 address').fill('10.45.0.30');
  await page.getByLabel('IPv4 address').press('Tab');
  await expect(page.locator('.follows')).toContainText('No data beside an alias');
  await commit(page);
  await page.selectOption('#record-type', 'SRV');
  for (const [label, value] of [
    ['Priority', '10'],
    ['Weight', '60'],
    ['Port', '5060'],
    ['Host', 'mess'],
  ])
    await page.getByLabel(label).fill(value);
  await page.getByLabel('Host').press('Tab');
  await expect(page.locator('.follows')).toContainText('10 60 5060 mess.crew.kittiwake.example.');
  await page.getByRole('link', { name: 'Edit A mess' }).click();
  await page.fill('#e-ttl', '5m');
  await page.press('#e-ttl', 'Tab');
  await expect(page.locator('.follows')).toContainText('One TTL in the record set');
  await commit(page);
  await expect(page.locator('tr', { hasText: 'mess' })).toContainText('5 min');
});

test('a silent server is said, and works again', async ({ page }) => {
  await signIn(page, 'ilke');
  await page.goto('/ship');
  await page.getByRole('link', { name: 'tide1', exact: true }).click();
  const url = page.url();
  await page.selectOption('#mode', 'silent');
  await page.getByRole('button', { name: 'Tell the stand-in' }).click();
  await expect(page.getByRole('alert').last()).toContainText('did not answer');
  await page.goto(url);
  await page.selectOption('#mode', 'normal');
  await page.getByRole('button', { name: 'Tell the stand-in' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'did not answer' })).toHaveCount(0);
});

test('an exchange shows each packet with its bytes', async ({ page }) => {
  await signIn(page, 'ilke');
  await page.goto('/lease?filter=Voice, Hall');
  await page.getByRole('link', { name: 'Voice, Hallowmere', exact: true }).click();
  await accessible(page);
  await page.getByRole('link', { name: 'What would a client get?' }).click();
  await page.waitForURL(/exchange/);
  await expect(page.locator('main')).toContainText('relay 10.38.16.1 selects Voice, Hallowmere');
  await page.selectOption('#server', { label: 'tide2' });
  await page.getByRole('button', { name: 'Run it' }).click();
  await expect(page.locator('main')).toContainText('As computed');
  await expect(page.locator('.ladder')).toHaveAttribute('aria-label', /DISCOVER .* OFFER .* REQUEST .* ACK .* RELEASE/);
  await expect(page.locator('.bytes').nth(3)).toContainText('domain name servers: 10.32.0.54, 10.38.0.53');
});

test('an address plan is imported after a preview', async ({ page }) => {
  await signIn(page);
  await page.goto('/import');
  await page.setInputFiles('#f1', {
    name: 'slip.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('prefix,kind,stage,name,site\n10.46.0.0/24,subnet,planned,Slip office,Ebb Cove\n10.46.0.9/24,subnet,planned,x,\n'),
  });
  await page.selectOption('#space', { label: 'Core' });
  await page
    .locator('form', { has: page.locator('#f1') })
    .getByRole('button', { name: 'Read it' })
    .click();
  await expect(page.locator('main')).toContainText('1 to add', { timeout: 20000 });
  await expect(page.locator('main')).toContainText('10.46.0.0/24');
  await page.getByRole('button', { name: 'Take over as one' }).click();
  await expect(page.locator('h1 + .soft')).toHaveText(/^\s*taken over/, { timeout: 20000 });
  await page.goto('/find?q=Slip+office');
  await expect(page.locator('main')).toContainText('10.46.0.0/24');
});

test("a tenant's own admin sees theirs only", async ({ page }) => {
  await signIn(page, 'quill');
  await expect(page.locator('main')).toContainText('Gates');
  await expect(page.locator('main')).not.toContainText('Ticketing');
  await page.goto('/name');
  await expect(page.locator('main')).toContainText('gates.kittiwake.example');
  await expect(page.locator('main')).not.toContainText('retail.kittiwake');
  // Of a zone in which one name was given to them they see that name.
  await page.getByRole('link', { name: 'ops.kittiwake.example' }).click();
  await expect(page.locator('main')).toContainText('harbour-gate');
  await expect(page.locator('main')).not.toContainText('srv');
});
