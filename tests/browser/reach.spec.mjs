import { accessible, atNight, commit, expect, own, signIn, test } from './world.mjs';

test('a part of the plan is granted, carved by its admin, and nothing beside it', async ({ page }) => {
  await signIn(page, 'quill');
  await page.goto('/plan');
  await page.getByRole('link', { name: 'Lent to the harbour office' }).click();
  await expect(page.locator('main')).not.toContainText('Edit this prefix');
  await page.fill('#carve-name', own('Pilot launches'));
  await page.press('#carve-name', 'Tab');
  await expect(page.locator('#follows-carve')).toContainText(own('Pilot launches'));
  await accessible(page);
  await commit(page.locator('#follows-carve'));
  await expect(page.locator('h1')).toContainText(own('Pilot launches'));
  await page.context().clearCookies();
  await signIn(page, 'sable');
  await page.goto('/directory/grants');
  await page.fill('#grant-where', '10.99.0.0/16');
  await page.press('#grant-where', 'Tab');
  await expect(page.locator('#follows-grant')).toContainText('one person, or for one team');
  await page.fill('#grant-person', 'wick');
  await page.getByRole('option', { name: /Wick Soames/ }).click();
  await page.fill('#grant-where', 'site Tarbeck');
  await page.getByRole('checkbox', { name: /Place hosts/ }).check();
  await page.press('#grant-where', 'Tab');
  await expect(page.locator('#follows-grant')).toContainText('Wick Soames may look and place hosts at Tarbeck');
  await expect(page.locator('#follows-grant')).toContainText('begins to place hosts');
  await commit(page.locator('#follows-grant'));
  await page.locator('main').getByRole('link', { name: 'Wick Soames' }).click();
  await expect(page.locator('h2', { hasText: 'Change a grant' })).toBeVisible();
  await page.getByRole('button', { name: /Take back Wick Soames/ }).click();
  await commit(page.locator('#follows-grant'));
  await expect(page.locator('main')).not.toContainText('Wick Soames');
});

test('who may reach what is said in a table, and ports that lack their profile are set', async ({ page }) => {
  await signIn(page);
  await page.goto('/directory/reach');
  await page.getByRole('link', { name: /110 TICKETING reaches 130 DECK-WIFI, nothing said/ }).click();
  await page.fill('#intent-why', 'tills talk to tills');
  await page.press('#intent-why', 'Tab');
  await expect(page.getByRole('checkbox', { name: '110 TICKETING', exact: true })).toBeChecked();
  await expect(page.locator('#follows-intent')).toContainText('110 TICKETING may not reach 130 DECK-WIFI');
  await accessible(page);
  await commit(page.locator('#follows-intent'));
  await expect(page.getByRole('link', { name: /110 TICKETING may not reach 130 DECK-WIFI/ })).toHaveText(/shut/);
  await page.goto('/directory/ports');
  await expect(page.locator('main')).toContainText('tarbeck-sw1 1-24');
  await page.selectOption('#give-profile', { label: 'Desk with phone' });
  await page.fill('#give-device', 'tarbeck-sw1');
  await page.fill('#give-ports', '25-28');
  await page.press('#give-ports', 'Tab');
  await expect(page.locator('#follows-give')).toContainText('tarbeck-sw1 25');
  await commit(page.locator('#follows-give'));
  await expect(page.locator('main')).toContainText('tarbeck-sw1 1-28');
});

test('a system outside is tested, compared, and a line taken in', async ({ page }) => {
  await signIn(page);
  await page.goto('/ship/outside');
  await page.getByRole('link', { name: 'buoy1' }).click();
  await expect(page.locator('main')).toContainText('10.99.0.67');
  await expect(page.locator('main')).toContainText('unknown to us');
  await accessible(page);
  await atNight(page);
  await page.getByRole('link', { name: 'Test the connection' }).click();
  await expect(page.locator('main')).toContainText('rights: it may read and write');
  const line = page.locator('tr', { hasText: 'missing here' }).first();
  await line.getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Take into the plan' }).click();
  await expect(page.getByRole('status')).toContainText('taken into the plan');
  await page.locator('tr', { hasText: 'missing there' }).first().getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Tell buoy1' }).click();
  await expect(page.locator('main')).toContainText('written, and read back as it is meant', { timeout: 30000 });
});

test('what servers measure is drawn with its scale, and told as a table', async ({ page }) => {
  await signIn(page, 'ilke');
  await page.goto('/watch/servers');
  await page.getByRole('link', { name: 'lamp3', exact: true }).click();
  await expect(page.locator('svg.chart').first()).toBeVisible();
  await page.getByRole('link', { name: 'Month' }).click();
  await expect(page.locator('main')).toContainText('code=ServFail');
  await accessible(page);
  await atNight(page);
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'CSV' }).first().click();
  expect((await download).suggestedFilename()).toContain('lamp3');
});

test('a site is renamed and owned, and refuses to go while something hangs on it', async ({ page }) => {
  await signIn(page);
  await page.goto('/directory/sites');
  await page.getByRole('link', { name: 'Ebb Cove', exact: true }).click();
  await page.selectOption('#changeit-tenant', { label: 'Harbour Authority' });
  await expect(page.locator('#follows-changeit')).toContainText('Harbour Authority');
  await commit(page.locator('#follows-changeit'));
  await expect(page.locator('header.title')).toContainText('owner: Harbour Authority');
  await page.getByRole('button', { name: 'Remove it' }).click();
  await expect(page.locator('#follows-changeit')).toContainText('is named by');
  await accessible(page);
  await page.goto('/directory/devices');
  await page.locator('td.name a').first().click();
  await expect(page.locator('#change')).toBeVisible();
  await accessible(page);
});
