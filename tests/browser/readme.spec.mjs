import { readFileSync } from 'node:fs';
import { expect, ships, signIn, test } from './world.mjs';

/** The five minutes of the README, as they are written: a sentence that is not understood fails as well as one that is not so. */
const text = readFileSync('README.md', 'utf8');
const walks = text
  .slice(text.indexOf('## Five minutes'), text.indexOf('## What else is there'))
  .split(/^\*\*(?=\w+\*\* )/m)
  .slice(1);

const verbs = [
  [/^Sign in as `(.+)`$/, (page, who) => signIn(page, who)],
  [
    /^Open (\*.+\*)$/,
    async (page, places) => {
      for (const place of places.split('*, *')) {
        const name = place.replaceAll('*', '');
        await page.getByRole('link', { name, exact: true }).first().click();
        await page.waitForLoadState();
      }
    },
  ],
  [
    /^Find `(.+)`$/,
    async (page, words) => {
      await page.keyboard.press('/');
      await page.keyboard.type(words);
      // What is found while one types is there; the key takes what is exact, or shows all.
      await expect(page.locator('#quick')).toContainText(`Everything found for ${words}`);
      await page.keyboard.press('Enter');
      await page.waitForLoadState();
    },
  ],
  [
    /^Type `(.+)` as \*(.+)\*$/,
    async (page, what, label) => {
      const field = page.locator('main').getByLabel(label, { exact: true }).locator('visible=true').first();
      await field.fill(what);
      await field.press('Tab');
    },
  ],
  [
    /^Press \*(.+)\*$/,
    async (page, label) => {
      await expect(page.locator('form[data-unseen]')).toHaveCount(0);
      const button = page
        .getByRole('button', { name: new RegExp(`^${label}`) })
        .locator('visible=true')
        .first();
      const reason = page.locator('.follows [name=reason]:visible');
      if (await reason.count()) await reason.first().fill('seen and wanted');
      // What was shipped before stands there too, and the page comes anew when it ends.
      if (label.startsWith('Ship')) return ships(page, () => button.click(), 'shipped and proved');
      await button.click();
      // What is written leads on: what is read next is read there.
      if (label.startsWith('Commit')) await expect(page.getByRole('status')).toContainText('done');
    },
  ],
  [/^Read \*(.+)\*$/, (page, words) => expect(page.locator('main')).toContainText(words, { timeout: 60000 })],
];

for (const walk of walks) {
  const [head, ...lines] = walk.split('\n');
  test(`the README takes ${head.split('*')[0]} somewhere`, async ({ page }) => {
    const steps = lines
      .filter((line) => line.startsWith('- '))
      .flatMap((line) =>
        line
          .slice(2)
          .replace(/\.$/, '')
          .split(/\. (?=[A-Z])/),
      );
    expect(steps.length).toBeGreaterThan(1);
    for (const step of steps) {
      const verb = verbs.find(([form]) => form.test(step));
      expect(verb, `"${step}" is understood`).toBeTruthy();
      await test.step(step, () => verb[1](page, ...step.match(verb[0]).slice(1)));
    }
  });
}

test('the README has a walk for each of the six people', () => {
  expect(walks.map((walk) => walk.split('*')[0]).sort()).toEqual(['ilke', 'maren', 'quill', 'sable', 'tobin', 'wick']);
});
