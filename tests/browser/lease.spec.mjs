import { accessible, expect, open, shown, signIn, test } from './world.mjs';

test('a pair that lost one of its servers is seen, and the other one is told', async ({ page }) => {
  await signIn(page, 'ilke');
  await page.goto('/lease/pairs');
  await expect(page.locator('main')).toContainText('does not answer');
  await accessible(page);
  await page.getByRole('link', { name: 'Orrin Pier', exact: true }).click();
  const both = page.getByRole('region', { name: 'Both servers' });
  await expect(both).toContainText('COMMUNICATIONS-INTERRUPTED');
  await expect(both).toContainText('not known');
  await accessible(page);
  // Without the reason and the tick nothing is said to it.
  await page.getByLabel('Reason').fill('power of the hall');
  await page.getByRole('button', { name: 'Tell tide1' }).click();
  await expect(page.getByText('Say first that the other one is off')).toBeVisible();
  await expect(both).toContainText('COMMUNICATIONS-INTERRUPTED');
  await page.getByLabel('Reason').fill('power of the hall');
  await page.getByLabel(/tide3 is off, and stays off/).check();
  await page.getByRole('button', { name: 'Tell tide1' }).click();
  await expect(page.getByText('tide1 was told that tide3 is off')).toBeVisible();
  await expect(both).toContainText('PARTNER-DOWN');
  await page.getByRole('link', { name: 'History' }).click();
  await expect(page.locator('main')).toContainText('power of the hall');
});

test('one of a pair answers a client, and the other one says why it does not', async ({ page }) => {
  await signIn(page, 'ilke');
  await page.goto('/lease?filter=pair:"Quay Wi-Fi"');
  await page.getByRole('link', { name: 'Deck Wi-Fi, Tarbeck', exact: true }).click();
  await expect(page.locator('main')).toContainText('each server knows what the other one gave');
  await accessible(page);
  await page.getByRole('link', { name: 'What would a client get?' }).click();
  await expect(page.locator('main')).toContainText(/bucket \d+ of the pair Quay Wi-Fi is of tide[12] \(RFC 3074\)/);
  await expect(page.locator('main')).toContainText(/tide[12] alone answers/);
});

test('scopes are made on picked subnets by one rule, all or none', async ({ page }) => {
  await signIn(page, 'ilke');
  await page.goto('/lease/without?filter=site:Tarbeck');
  await accessible(page);
  for (const i of [0, 1]) await page.locator('input.pick').nth(i).check();
  await page.getByLabel('Ranges by rule').fill('the upper half');
  await shown(page);
  await expect(page.locator('#follows-makescopes')).toContainText('2 scopes new');
  await page.getByLabel('Ranges by rule').fill('from .20 to .40000');
  await shown(page);
  await expect(page.locator('#follows-makescopes')).toContainText('usable addresses');
  await page.getByLabel('Ranges by rule').fill('most of it');
  await shown(page);
  await expect(page.locator('#follows-makescopes')).toContainText('a rule such as');
});

test('leases are named from the page of their scope', async ({ page }) => {
  await signIn(page, 'ilke');
  await open(page, 'Deck Wi-Fi, Hallowmere', 'Deck Wi-Fi, Hallowmere');
  await expect(page.locator('main')).toContainText('signed with tide.kittiwake.example');
  await page.getByText('Name its leases').click();
  await page.locator('#naming').getByLabel('Pattern').fill('crew');
  await shown(page);
  await expect(page.locator('#follows-naming')).toContainText('gives the same name to several clients');
  await page.getByRole('link', { name: 'What stands there' }).click();
  await expect(page.locator('main')).toContainText('Names of Deck Wi-Fi, Hallowmere');
  await accessible(page);
});
