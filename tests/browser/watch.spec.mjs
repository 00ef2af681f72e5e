import { accessible, atNight, commit, expect, signIn, test } from './world.mjs';

for (const path of [
  '/watch/notices',
  '/watch/servers',
  '/watch/due',
  '/watch/reports',
  '/watch/reports/write',
  '/watch/audits',
  '/watch/audits/write',
]) {
  test(`${path} passes axe in both themes and holds when it is narrow`, async ({ page }) => {
    await signIn(page);
    await page.goto(path);
    await accessible(page);
    await atNight(page);
    await page.setViewportSize({ width: 640, height: 400 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(1);
  });
}

test('a report is written as a sentence, looked at and taken as CSV', async ({ page }) => {
  await signIn(page);
  await page.goto('/watch/reports/write');
  await page.selectOption('#kind', 'zone');
  await page.getByRole('button', { name: 'Choose' }).click();
  await page.fill('#report-name', 'Zones with much in them');
  await page.selectOption('[name="where[1-fact]"]', 'records');
  await page.selectOption('[name="where[1-test]"]', 'above');
  await page.fill('[name="where[1-value]"]', '100');
  await page.selectOption('#report-sort', '-records');
  await page.selectOption('#report-every', 'week');
  await page.press('#report-time', 'Tab');
  await expect(page.locator('#follows-report')).toContainText('It runs Mon');
  await expect(page.locator('#follows-report')).toContainText('zones are in it now');
  await accessible(page);
  await commit(page.locator('#follows-report'));
  await expect(page.locator('h1')).toHaveText('Zones with much in them');
  await expect(page.locator('main')).toContainText('where records above 100');
  await accessible(page);
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'CSV' }).click();
  expect((await download).suggestedFilename()).toBe('Zones-with-much-in-them.csv');
  await page.getByRole('button', { name: 'Remove' }).click();
  await commit(page);
});

test('an audit is tried while it is made, run, and a finding left so for a reason', async ({ page }) => {
  await signIn(page);
  await page.goto('/watch/audits/write');
  await page.fill('#audit-name', 'Subnets say what they are for');
  await page.selectOption('[name="must[1-fact]"]', 'description');
  await page.selectOption('[name="must[1-test]"]', 'set');
  await page.press('#audit-name', 'Tab');
  await expect(page.locator('#follows-audit')).toContainText('fail now');
  await commit(page.locator('#follows-audit'));
  await expect(page.locator('h1')).toHaveText('Subnets say what they are for');
  await page.getByRole('button', { name: 'Run it now' }).click();
  await expect(page.getByRole('status')).toContainText('fail');
  await page.getByText('Leave it so').first().click();
  await page.getByLabel('Until').first().fill('2031-01-31');
  await page.getByLabel('Why').first().fill('nobody knows any more');
  await page.getByRole('button', { name: 'Leave it', exact: true }).first().click();
  await commit(page);
  await expect(page.locator('main')).toContainText('until 2031-01-31: nobody knows any more');
  await accessible(page);
  await page.getByRole('button', { name: 'Remove' }).click();
  await commit(page);
});

test('a notice is looked after, and its rule changed', async ({ page }) => {
  await signIn(page);
  await page.goto('/watch/notices');
  const row = page.locator('tr', { hasText: '10.40.22.0/26 is 100 % full' });
  await row.getByRole('checkbox').check();
  await page.getByRole('button', { name: 'I look after them' }).click();
  await page.getByRole('button', { name: /^Look now/ }).click();
  await expect(row).toContainText('Maren Tolk');
  await page.getByRole('link', { name: 'A subnet is nearly full' }).click();
  await page.fill('#notice-rule-threshold', '99');
  await page.press('#notice-rule-threshold', 'Tab');
  await expect(page.locator('#follows-notice-rule')).toContainText('now');
  await commit(page.locator('#follows-notice-rule'));
  await expect(page.locator('main')).toContainText('from 99 %');
  await page.goto('/watch/notices?rule=subnet');
  await page.fill('#notice-rule-threshold', '85');
  await page.press('#notice-rule-threshold', 'Tab');
  await commit(page.locator('#follows-notice-rule'));
});
