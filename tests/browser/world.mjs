import AxeBuilder from '@axe-core/playwright';
import { expect, test as base } from '@playwright/test';

/** A page whose console stays clean: an error or a refused script fails the test. */
export const test = base.extend({
  page: async ({ page }, use) => {
    const said = [];
    page.on('console', (m) => {
      if (m.type() === 'error') said.push(m.text());
    });
    page.on('pageerror', (e) => said.push(e.message));
    await use(page);
    expect(said).toEqual([]);
  },
});
export { expect };

/** Cookies of people who are signed in already: a password is hashed slowly, once is enough. */
const sessions = new Map();

export async function signIn(page, who = 'maren') {
  await page.context().clearCookies();
  if (sessions.has(who)) {
    await page.context().addCookies(sessions.get(who));
    await page.goto('/bridge');
    if (await page.locator('.rail').isVisible()) return;
  }
  await page.goto('/sign-in');
  await page.fill('#sign_in', who);
  await page.fill('#password', 'harbour-demo');
  await page.press('#password', 'Enter');
  await expect(page.locator('.rail')).toBeVisible();
  sessions.set(who, await page.context().cookies());
}

/** The page in the other theme: it changes colours alone, so that only these are looked at again. */
export async function atNight(page) {
  await page.evaluate(() => {
    document.documentElement.dataset.watch = 'night';
  });
  await accessible(page, (axe) => axe.withRules(['color-contrast']));
}

export async function accessible(page, rules = (axe) => axe.withTags(['wcag2a', 'wcag2aa', 'wcag21aa'])) {
  // A colour on its way from one theme to the other is none that anybody reads.
  await page.evaluate(() =>
    Promise.all(
      document
        .getAnimations()
        .filter((a) => a instanceof CSSTransition)
        .map((a) => a.finished.catch(() => null)),
    ),
  );
  // There are no frames, so that no page of its own has to gather what was found in each; only findings are told in full.
  // Of a long table its first rows stand for the rest, which are drawn by the same lines.
  const axe = new AxeBuilder({ page })
    .setLegacyMode()
    .options({ resultTypes: ['violations'] })
    .exclude('tbody tr:nth-child(n + 13)');
  const { violations } = await rules(axe).analyze();
  expect(
    violations.map(
      (v) =>
        `${v.id}: ${v.nodes
          .map((n) => n.target.join(' '))
          .slice(0, 4)
          .join(' | ')}`,
    ),
  ).toEqual([]);
}

/** The page of the prefix with that name, through the find field. */
export async function open(page, text, link) {
  await page.keyboard.press('Escape');
  await page.fill('#find', text);
  await page.press('#find', 'Enter');
  // Enter leads to the page itself where nothing else is just what was typed.
  const hit = page.locator('main').getByRole('link', { name: link, exact: true }).first();
  const there = page.locator('h1', { hasText: link });
  await expect(there.or(hit).first()).toBeVisible();
  if (!(await there.isVisible())) await hit.click();
}

/** What follows has caught up with what was typed. */
export async function shown(within) {
  const page = within.page?.() ?? within;
  await expect(page.locator('form[data-unseen]')).toHaveCount(0);
}

/** Commits what is shown, with a reason where there are warnings. */
export async function commit(within) {
  await shown(within);
  // What stands in no draft is done by its own verb.
  const button = within.getByRole('button', { name: /^[A-Z][a-z]+ now/ }).last();
  await expect(button).toBeVisible();
  const reason = within.locator('[name=reason]').last();
  if ((await reason.count()) && (await reason.isVisible())) await reason.fill('seen and wanted');
  // What gives rights asks for the password, when it was said too long ago.
  const sure = within.locator('[name=sure]').last();
  if ((await sure.count()) && (await sure.isVisible())) await sure.fill('harbour-demo');
  await answered(within.page?.() ?? within, () => button.click());
}

/** Does what sends an act, and waits for its answer: the page that it leads to, or what the panel says. */
export async function answered(page, act) {
  const loaded = page.waitForEvent('load', { timeout: 30000 }).catch(() => null);
  // A look that is still under way is answered too: that is not the answer.
  const sends = (r) => r.method() === 'POST' && r.url().includes('/act/') && /\bthen=(commit|draft)\b/.test(r.postData() ?? '');
  const [answer] = await Promise.all([page.waitForResponse((r) => sends(r.request())), act()]);
  if (answer.headers()['hx-redirect'] || !answer.request().headers()['hx-request']) await loaded;
}

/** Ships from the page of a server, and waits for the end of that very shipment: what was shipped before stands there too. */
export async function ships(page, act, says) {
  const latest = page.locator('summary', { hasText: 'Shipment ' }).first();
  const begun = async () => ((await latest.count()) ? latest.locator('.soft[title]').getAttribute('title') : null);
  const before = await begun();
  await act();
  await expect.poll(begun, { timeout: 90000 }).not.toBe(before);
  await expect(latest).toContainText(says);
}

/** A name that the first try of a test did not give already: a second one finds what that left behind. */
export const own = (name) => (test.info().retry === 0 ? name : `${name}-again`);

/** Types into a picker and takes what it offers. */
export async function pick(page, field, text, hint = '') {
  await page.fill(field, text);
  await page
    .locator(`${field}-list [role=option]`, { hasText: hint || text })
    .first()
    .click();
}
