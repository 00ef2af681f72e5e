import { accessible, commit, expect, open, signIn, test } from './world.mjs';

test('subnet and zone pages pass axe', async ({ page }) => {
  await signIn(page);
  await open(page, '10.36.8.0/22', 'Ticketing, quay 1');
  await page.fill('#place-name', 'a..b');
  await page.press('#place-name', 'Tab');
  await expect(page.locator('.follows')).toContainText('blocked');
  await accessible(page);
  await page.goto('/name?filter=kittiwake.example');
  await page.getByRole('link', { name: 'kittiwake.example', exact: true }).first().click();
  await accessible(page);
});

test('the sign-in page passes axe and says what went wrong', async ({ page }) => {
  await page.goto('/sign-in');
  await accessible(page);
  await page.fill('#sign_in', 'maren');
  await page.fill('#password', 'guess');
  await page.press('#password', 'Enter');
  await expect(page.getByRole('alert')).toContainText('do not belong together');
});

test('pages hold at 200 % zoom and on a phone', async ({ page }) => {
  await signIn(page);
  for (const size of [
    { width: 640, height: 400 },
    { width: 390, height: 800 },
    { width: 1024, height: 700 },
  ]) {
    await page.setViewportSize(size);
    for (const path of ['/plan', '/name', '/lease', '/ship']) {
      await page.goto(path);
      expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth), `${path} at ${size.width}`).toBeLessThanOrEqual(
        1,
      );
    }
  }
});

test('keys: find, filter, arrows, help, theme', async ({ page }) => {
  await signIn(page);
  await page.goto('/lease');
  await page.keyboard.press('/');
  await expect(page.locator('#find')).toBeFocused();
  await page.keyboard.press('Escape');
  await page.keyboard.press('f');
  await expect(page.locator('#filter')).toBeFocused();
  await page.keyboard.press('Escape');
  await page.locator('tbody tr').first().getByRole('link').first().focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.locator('tbody tr').nth(1).getByRole('link').first()).toBeFocused();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('commit now');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.locator('.me summary').click();
  await page.getByRole('button', { name: 'Night watch' }).click();
  await expect(page.locator('html')).toHaveAttribute('data-watch', 'night');
  await page.locator('.me summary').click();
  await page.getByRole('button', { name: 'Paper' }).click();
});

test('forms work without script', async ({ browser }) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const page = await context.newPage();
  await page.goto('/sign-in');
  await page.fill('#sign_in', 'maren');
  await page.fill('#password', 'harbour-demo');
  await page.click('button[data-key=main]');
  await page.goto('/directory/sites');
  await page.fill('#make-name', 'Slip 7');
  await page.getByRole('button', { name: 'Show what follows' }).click();
  await expect(page.locator('.follows')).toContainText('Slip 7');
  await commit(page);
  await expect(page.locator('main')).toContainText('Slip 7');
  await context.close();
});
