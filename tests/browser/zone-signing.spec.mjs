import { accessible, commit, expect, signIn, test } from './world.mjs';

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

// Last of all: a shipment of lamp1 brings whatever else waits there.
test('a zone is signed, proved from its chain, and taken out of signing', async ({ page }) => {
  await signIn(page);
  await zone(page, 'retail.kittiwake.example');
  await page.getByRole('link', { name: 'Signing' }).click();
  const signing = page.url();
  await expect(page.locator('main')).toContainText('cannot tell a true answer');
  await page.selectOption('#sign-policy', { label: 'for long lists' });
  await expect(page.locator('#follows-sign')).toContainText('NSEC3 records are added with the next shipment');
  await accessible(page);
  await commit(page.locator('#follows-sign'));
  await page.goto(signing);
  await expect(page.locator('main')).toContainText('made, not shipped');
  await page.goto('/ship');
  await page.getByRole('link', { name: 'lamp1' }).first().click();
  await page.getByRole('button', { name: /^Ship/ }).first().click();
  await expect(page.locator('main')).toContainText('its signature holds', { timeout: 30000 });
  await page.goto(signing);
  await page.selectOption('#chain-server', { label: 'lamp1' });
  await page.getByRole('button', { name: 'Walk it' }).click();
  await expect(page.locator('#chain')).toContainText('Secure');
  await accessible(page);
  await page.getByRole('button', { name: 'Stop signing' }).click();
  await commit(page);
  await page.goto(signing);
  await expect(page.locator('main')).toContainText('cannot tell a true answer');
});

test('a resolver with anchors believes nothing that is wrong on purpose', async ({ page }) => {
  await signIn(page);
  await page.goto('/name/signing');
  const given = page.getByRole('row', { name: /Data hall B/ });
  await expect(given).toContainText('lamp2 resolves for nobody, lamp3 does');
  await expect(given).toContainText('nothing: REFUSED or SERVFAIL, by chance');
  await page.selectOption('#trial-server', { label: 'lamp3' });
  await page.getByRole('button', { name: 'Try them' }).click();
  await expect(page.locator('#trial')).toContainText('nothing of what is wrong');
  await page.selectOption('#trial-server', { label: 'mole1' });
  await page.getByRole('button', { name: 'Try them' }).click();
  await expect(page.locator('#trial')).toContainText('whoever asks it takes forged answers for true');
});
