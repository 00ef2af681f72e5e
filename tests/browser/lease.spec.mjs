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

test('a vessel is delegated a prefix: computed, tried by packets, and what the router says is compared', async ({ page }) => {
  await signIn(page, 'ilke');
  await page.goto('/lease?filter=is:v6');
  await accessible(page);
  await page.getByRole('link', { name: 'Deck Wi-Fi, Orrin Pier quay 1, IPv6', exact: true }).click();
  await expect(page.locator('main')).toContainText('for routers, as /56');
  await accessible(page);
  await page.getByRole('link', { name: 'What would a client get?' }).click();
  await page.getByLabel('It wants').selectOption('both');
  await page.getByLabel('Options asked for').fill('23 24');
  await page.getByRole('button', { name: /Compute/ }).click();
  await expect(page.locator('main')).toContainText('Several answer');
  await page.getByRole('button', { name: 'Run it' }).click();
  await expect(page.locator('main')).toContainText('As computed: what was given');
  await expect(page.getByRole('img', { name: /SOLICIT.*ADVERTISE.*REQUEST.*REPLY.*RELEASE/ })).toBeVisible();
  await accessible(page);
  await page.goto('/lease?filter=is:v6');
  await page.getByRole('link', { name: 'Ticketing, Hallowmere quay 1, IPv6', exact: true }).click();
  await expect(page.locator('main')).toContainText('off: no client asks for an address');
});

test('a client of IPv6 is reserved by its DUID, and what follows says what a MAC lacks', async ({ page }) => {
  await signIn(page, 'ilke');
  await open(page, 'Deck Wi-Fi, Hallowmere quay 1, IPv6', 'Deck Wi-Fi, Hallowmere quay 1, IPv6');
  await page.fill('#reserve-address', '2001:db8:4b03::25');
  await page.fill('#reserve-mac', '00:00:5e:00:53:17');
  await shown(page);
  await expect(page.locator('#follows-reserve')).toContainText('the DUID-LL of this one is 00:03:00:01:00:00:5e:00:53:17');
  await page.fill('#reserve-mac', '00:03:00:01:00:00:5e:00:53:17 iaid 7');
  await shown(page);
  await expect(page.locator('#follows-reserve')).toContainText('reserved once');
});
