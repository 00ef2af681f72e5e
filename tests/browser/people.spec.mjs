import jsQR from 'jsqr';
import { createHmac } from 'node:crypto';
import { accessible, commit, expect, signIn, test } from './world.mjs';

/** The code that a device would show now (RFC 6238). */
function code(secret) {
  const bits = [...secret].map((c) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(c).toString(2).padStart(5, '0')).join('');
  const key = Buffer.from(bits.match(/.{8}/g).map((b) => parseInt(b, 2)));
  const counter = Buffer.alloc(8);
  counter.writeBigUInt64BE(BigInt(Math.floor(Date.now() / 30000)));
  const mac = createHmac('sha1', key).update(counter).digest();
  const number = mac.readUInt32BE(mac[19] & 15) & 0x7fffffff;
  return String(number % 1000000).padStart(6, '0');
}

test('a steward looks at one person, keeps a test of rights, and sees what they see', async ({ page }) => {
  await signIn(page, 'sable');
  await page.goto('/directory/people');
  await page.getByRole('link', { name: 'Quill Harrow', exact: true }).click();
  await expect(page.locator('main')).toContainText('not so any more');
  await accessible(page);
  await page.fill('#right-test-object', 'ops.kittiwake.example');
  await page.selectOption('#right-test-does', 'write');
  await expect(page.locator('#follows-right-test')).toContainText('It is so now');
  await commit(page.locator('#follows-right-test'));
  await expect(page.locator('main')).toContainText('Quill Harrow may not write ops.kittiwake.example');
  await page.getByRole('button', { name: 'See it as Quill does' }).click();
  await expect(page.getByRole('status')).toContainText('you see this as Quill Harrow does');
  await accessible(page);
  await page.goto('/plan');
  await expect(page.getByRole('status')).toContainText('Nothing is written');
  await page.getByRole('button', { name: 'See as yourself again' }).click();
  await expect(page.locator('h1')).toHaveText('People');
});

test('a second factor is set up, asked for, and taken away', async ({ page }) => {
  await signIn(page, 'wick');
  await page.goto('/me');
  await page.getByRole('link', { name: 'Set one up' }).click();
  await accessible(page);
  const secret = await page.locator('input[name=secret]').inputValue();
  // What a camera reads, by a reader that is not ours.
  const uri = await page.locator('[data-qr]').getAttribute('data-qr');
  expect(uri).toContain(`secret=${secret}`);
  await expect(page.getByRole('img', { name: 'The secret, to be read by a camera' })).toBeVisible();
  const [side, path] = await page
    .locator('svg.qr')
    .evaluate((svg) => [svg.viewBox.baseVal.width, svg.querySelector('path').getAttribute('d')]);
  const scale = 6;
  const wide = side * scale;
  const pixels = new Uint8ClampedArray(wide * wide * 4).fill(255);
  for (const [, x, y] of path.matchAll(/M(\d+) (\d+)h1v1h-1z/g))
    for (let i = 0; i < scale * scale; i++) {
      const at = ((Number(y) * scale + Math.floor(i / scale)) * wide + Number(x) * scale + (i % scale)) * 4;
      pixels.fill(0, at, at + 3);
    }
  expect(jsQR(pixels, wide, wide).data).toBe(uri);
  await page.fill('#code', code(secret));
  await page.fill('#password', 'harbour-demo');
  await page.getByRole('button', { name: 'Set it up' }).click();
  await expect(page.locator('main')).toContainText('Keep these on paper');
  const paper = (await page.locator('[role=status] code').innerText()).split(/\s+/);
  expect(paper.length).toBe(8);
  await page.locator('details.me summary').click();
  await page.getByRole('button', { name: 'Sign out', exact: true }).click();
  await page.fill('#sign_in', 'wick');
  await page.fill('#password', 'harbour-demo');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.locator('main')).toContainText('The password was right');
  await accessible(page);
  await page.fill('#code', paper[0]);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.goto('/me');
  await expect(page.locator('main')).toContainText('7 codes on paper are left');
  await page.fill('#drop-password', 'harbour-demo');
  await page.getByRole('button', { name: 'Remove the second factor' }).click();
  await expect(page.locator('main')).toContainText('Your password alone opens your sign-in');
});

test('one signs in at the provider of the organisation, and who is not known there is told so', async ({ page }) => {
  await page.goto('/sign-in');
  await page.getByRole('link', { name: 'Sign in at Kittiwake' }).click();
  await page.getByRole('link', { name: 'Petrel Moss' }).click();
  await expect(page.getByRole('alert')).toContainText('Nobody here is known as "petrel@kittiwake.example"');
  await page.getByRole('link', { name: 'Sign in at Kittiwake' }).click();
  await page.getByRole('link', { name: 'Ilke Brandt' }).click();
  await expect(page.locator('details.me')).toContainText('Ilke Brandt');
  await page.goto('/me');
  await expect(page.locator('main')).toContainText('Show at Kittiwake who you are');
});

test('what is said of a page is one key away, and a task is found by its words', async ({ page }) => {
  await signIn(page, 'wick');
  await page.goto('/name/lookup');
  await page.locator('h1').click();
  await page.keyboard.press('?');
  await page.getByRole('dialog').getByRole('link', { name: 'About this page' }).click();
  await expect(page).toHaveURL(/\/guide\/operator#ask-a-server/);
  await page.fill('#find', 'how do I mend a drift');
  await expect(page.locator('#quick')).toContainText('Mend a drift');
  await page.locator('#quick').getByText('Mend a drift').first().click();
  await expect(page).toHaveURL(/#mend-a-drift/);
});
