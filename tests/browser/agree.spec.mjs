import { accessible, answered, commit, expect, open, own, pick, shown, signIn, test } from './world.mjs';

/** A page of somebody else, in a browser of their own. */
async function as(browser, who) {
  const context = await browser.newContext();
  const page = await context.newPage();
  await signIn(page, who);
  return page;
}

/** A rule that a failed walk leaves behind would stop all that come after it. */
test.afterAll(async ({ browser }) => {
  const page = await as(browser, 'sable');
  await page.goto('/ship/rules');
  const row = page.locator('tr', { hasText: 'touches an address' });
  if (await row.count()) {
    await row.first().getByRole('button', { name: 'Remove' }).click();
    await answered(page, () => page.locator('#follows-rule').getByRole('button', { name: /now/ }).click());
  }
  await page.context().close();
});

test('a draft is submitted, refused, amended, agreed to and committed by three people', async ({ page, browser }) => {
  await signIn(page, 'sable');
  await page.goto('/ship/rules');
  await page.selectOption('#rule-kind', 'touches');
  await page.selectOption('#rule-noun', 'address');
  await shown(page);
  await expect(page.locator('#follows-rule')).toContainText('Rule of agreement');
  await page.locator('#follows-rule [name=reason]').fill('tobin is on watch all week');
  await answered(page, () => page.getByRole('button', { name: /^Make now/ }).click());
  await expect(page.locator('main table').first()).toContainText('touches an address');

  const author = await as(browser, 'ilke');
  await open(author, 'Ticketing, quay 1', 'Ticketing, quay 1');
  await author.fill('#place-name', own('agreed-kiosk'));
  const follows = author.locator('#follows-place');
  await expect(follows).toContainText('It needs one approver');
  await shown(author);
  await expect(follows.getByRole('button', { name: 'Commit now' })).toHaveCount(0);
  const why = follows.locator('[name=reason]');
  if (await why.count()) await why.fill('the fair');
  await answered(author, () => author.getByRole('button', { name: /Add to draft/ }).click());
  await author.goto('/ship/draft');
  await expect(author.locator('main')).toContainText('It needs one approver');
  await author.fill('#draft-title', 'A kiosk for the fair day');
  await author.getByRole('button', { name: 'Submit it' }).click();
  await expect(author.locator('main')).toContainText('0 of 1 agreed');

  const approver = await as(browser, 'tobin');
  await approver.goto('/bridge');
  await approver.getByRole('link', { name: /A kiosk for the fair day/ }).click();
  await expect(approver.locator('main')).toContainText(own('agreed-kiosk'));
  await accessible(approver);
  await approver.fill('#decide-reason', 'Say who looks after it.');
  await approver.getByRole('button', { name: 'Refuse' }).click();
  await expect(approver.locator('main')).toContainText('Say who looks after it.');

  await author.reload();
  await expect(author.locator('main')).toContainText('Tobin Ashe refused');
  await author.getByRole('button', { name: 'Take it back and change it' }).click();
  await expect(author).toHaveURL(/\/ship\/drafts\/\w{26}$/);
  const ask = author.getByText('Ask others first');
  if ((await ask.count()) && !(await author.locator('#draft-why').isVisible())) await ask.click();
  await author.fill('#draft-why', 'Ilke looks after it.');
  await author.getByRole('button', { name: 'Submit it' }).click();
  await expect(author.locator('main')).toContainText('does not count any more');

  await approver.goto('/ship/drafts');
  await approver.getByRole('link', { name: 'A kiosk for the fair day' }).first().click();
  await approver.getByRole('button', { name: /^Agree/ }).click();
  await expect(approver.locator('main')).toContainText('1 of 1 agreed');

  await author.reload();
  const reason = author.locator('#reason');
  if (await reason.count()) await reason.fill('as agreed');
  await author.getByRole('button', { name: /Commit as one/ }).click();
  await expect(author).toHaveURL(/\/ship$/);
  await expect(author.locator('main')).toContainText('The draft is committed');

  await page.goto('/ship/rules');
  await page.locator('tr', { hasText: 'touches an address' }).getByRole('button', { name: 'Remove' }).click();
  await answered(page, () => page.locator('#follows-rule').getByRole('button', { name: /now/ }).click());
  await expect(page.locator('main table').first()).not.toContainText('touches an address');
});

test('what somebody wrote meanwhile is decided three-way, the edit amended, committed, and all of it taken back', async ({
  page,
  browser,
}) => {
  await signIn(page, 'maren');
  await page.goto('/ship/drafts');
  await page.getByRole('link', { name: 'Plant networks get their owners' }).click();
  const ways = page.locator('.ways');
  await expect(ways).toContainText('pumps; cranes moved out');
  await expect(ways).toContainText('pumps and cranes, harbour engineers');
  await accessible(page);
  await page.getByRole('button', { name: 'Take it back and change it' }).click();
  await page.getByRole('button', { name: 'Ours: write over theirs' }).click();
  await expect(page.getByRole('status')).toContainText('on top of what was shown');
  await expect(ways).toHaveCount(0);

  await page.getByRole('link', { name: 'Amend edit 1' }).click();
  await accessible(page);
  await page.getByLabel('Description', { exact: true }).fill('pumps, harbour engineers');
  await page.keyboard.press('Control+Enter');
  await expect(page.locator('.changes').first()).toContainText('pumps, harbour engineers');

  // A colleague puts a second edit in, by their own hand.
  await page.fill('#share-with', 'ilke');
  await page.getByRole('button', { name: 'Share it' }).click();
  await expect(page.locator('main')).toContainText('Ilke Brandt');
  const draft = page.url();
  const ilke = await as(browser, 'ilke');
  await ilke.goto(draft);
  await ilke.getByRole('button', { name: 'Work on this draft' }).click();
  await expect(ilke.locator('main')).toContainText('your edits go here');
  await open(ilke, 'Ticketing, quay 1', 'Ticketing, quay 1');
  await ilke.fill('#place-name', 'engineers-desk');
  await shown(ilke);
  const why = ilke.locator('#follows-place [name=reason]');
  if (await why.count()) await why.fill('for the pumps');
  await answered(ilke, () => ilke.getByRole('button', { name: /Add to draft/ }).click());
  await page.reload();
  await expect(page.locator('.edits')).toContainText('by Ilke Brandt');
  await page.getByRole('button', { name: 'Move edit 2 earlier' }).click();
  await expect(page.locator('.edits > li').first()).toContainText('by Ilke Brandt');
  const reason = page.locator('#reason');
  if (await reason.count()) await reason.fill('as agreed');
  await page.getByRole('button', { name: /Commit as one/ }).click();
  await expect(page.locator('main')).toContainText('The draft is committed');

  await page.goto(draft);
  await page.getByRole('link', { name: 'Take it back' }).click();
  await expect(page.locator('main')).toContainText('Nobody changed any of it since');
  await expect(page.locator('#follows-back')).toContainText('Written');
  await accessible(page);
  const because = page.locator('#follows-back [name=reason]');
  if (await because.count()) await because.fill('a walk');
  await answered(page, () =>
    page
      .locator('#follows-back')
      .getByRole('button', { name: /Commit now/ })
      .click(),
  );
  await page.goto('/find?q=engineers-desk');
  await expect(page.locator('main')).not.toContainText('engineers-desk.');
});

test('a window is made, and a draft gets its time', async ({ page }) => {
  await signIn(page, 'ilke');
  await page.goto('/ship/times');
  await expect(page.locator('main')).toContainText('Night at the piers');
  await accessible(page);
  await page.fill('#window-name', 'Lunch break');
  await page.getByRole('checkbox', { name: 'Wed' }).check();
  await page.fill('#window-starts', '12:10');
  await page.fill('#window-minutes', '30');
  await expect(page.locator('#follows-window')).toContainText('Opens next Wed');
  await commit(page);
  await expect(page.locator('main')).toContainText('Wednesday 12:10 for 30 min, Europe/London');

  await page.goto('/ship/drafts');
  await page.getByRole('link', { name: 'Opening hours of the kiosks' }).click();
  await expect(page.locator('.course')).toContainText('committed by itself');
  await page.getByText('At another time').click();
  await page.fill('#due-at', '2027-01-04 22:30');
  await accessible(page);
  await page.getByRole('button', { name: 'Commit it then' }).click();
  await expect(page.locator('.course')).toContainText('committed by itself Mon 4 Jan 22:30 UTC');
});

test('the bridge is arranged by keys and keeps its order', async ({ page }) => {
  await signIn(page, 'wick');
  await page.goto('/bridge');
  const first = () => page.locator('.bridge h2').first();
  const before = await first().textContent();
  await page.getByRole('button', { name: `Move ${before} later` }).focus();
  await page.keyboard.press('Enter');
  await expect(first()).not.toHaveText(before);
  await page.getByRole('button', { name: 'Back to the given order' }).click();
  await expect(first()).toHaveText(before);
});

test('a program is given a token, shown once, and asks with it', async ({ page, request }) => {
  await signIn(page, 'ilke');
  await page.goto('/me');
  await page.fill('#token-name', 'meter reader');
  await page.getByRole('button', { name: 'Make it' }).click();
  const token = await page.locator('.notice code').textContent();
  expect(token).toMatch(/^hp_/);
  const answer = await request.get('/api/v1/prefixes?within=10.36.8.0/22', { headers: { Authorization: `Bearer ${token}` } });
  expect((await answer.json()).items[0].prefix).toBe('10.36.8.0/22');
  await page.reload();
  await expect(page.locator('main')).not.toContainText(token);
  await page.goto('/api');
  await page.fill('#try-token', token);
  await page.selectOption('#try-what', 'prefixes');
  await page.fill('#try-more', 'within=10.36.8.0/22');
  await page.keyboard.press('Control+Enter');
  await expect(page.locator('[data-answer]')).toContainText('"prefix": "10.36.8.0/22"');
  await page.selectOption('#try-what', 'acts/place-host');
  await expect(page.locator('#try-body')).toHaveValue(/"rehearse": true/);
  await accessible(page);
  await page.goto('/me');
  await page.getByRole('button', { name: 'End the token of meter reader' }).click();
  const after = await request.get('/api/v1/prefixes', { headers: { Authorization: `Bearer ${token}` } });
  expect(after.status()).toBe(401);
});

test('an option is set by layer, and the exchange says where it comes from', async ({ page }) => {
  await signIn(page, 'ilke');
  await page.goto('/lease/options');
  await page.selectOption('#option-code', '4');
  await page.fill('#option-value', '10.32.0.99');
  await expect(page.locator('#follows-option')).toContainText('Reaches');
  await commit(page);
  await expect(page.locator('main table').first()).toContainText('10.32.0.99');
  await page.goto('/lease?filter=Voice');
  await page.locator('td.name a').first().click();
  await expect(page.locator('.sounding')).toContainText('10.32.0.99');
  await page.getByRole('link', { name: 'What would a client get?' }).click();
  await page.fill('#vendor', 'callbox-7');
  await page.fill('#asked', '3 4 66');
  await page.keyboard.press('Control+Enter');
  await expect(page.locator('main')).toContainText('Callboxes is in it');
  await expect(page.locator('.sounding')).toContainText('boot.kittiwake.example');
  await accessible(page);
  // What is typed and not computed yet goes with the packets all the same.
  await page.fill('#vendor', 'callbox-9');
  await page.getByRole('button', { name: 'Run it' }).click();
  await expect(page.locator('.ladder')).toBeVisible();
  await expect(page.locator('#vendor')).toHaveValue('callbox-9');
  // Saved and not shipped, it would differ from what servers send: it is taken back.
  await page.goto('/lease/options');
  await page.selectOption('#option-code', '4');
  await page.fill('#option-value', '');
  await expect(page.locator('#follows-option')).toContainText('Remove option 4');
  await commit(page);
  await expect(page.locator('main table').first()).not.toContainText('10.32.0.99');
});

test('leases are filtered, sorted by a head and paged', async ({ page }) => {
  await signIn(page, 'ilke');
  await page.goto('/lease/leases');
  await expect(page.locator('.pages').last()).toContainText('1 to 100 of');
  await page.getByRole('link', { name: 'Until', exact: true }).click();
  await expect(page.locator('th[aria-sort=ascending]')).toHaveText('Until');
  await page.getByRole('link', { name: 'On', exact: true }).click();
  await expect(page.locator('.pages').last()).toContainText('101 to 200');
  await page.fill('#filter', 'server:tide1 colour:red');
  await page.press('#filter', 'Enter');
  await expect(page.locator('main')).toContainText('"colour:red" is not understood');
});

test('a picker offers while one types and is walked by arrows', async ({ page }) => {
  await signIn(page);
  await page.goto('/lease');
  await page.fill('#makescope-prefix', '10.36.0.0/16');
  const list = page.locator('#makescope-prefix-list');
  await expect(list.locator('[role=option]').first()).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.locator('#makescope-prefix')).not.toHaveValue('10.36.0.0/16');
  await expect(list).toBeHidden();
  await accessible(page);
  await open(page, 'Ticketing, quay 1', 'Ticketing, quay 1');
  await pick(page, '#place-zone', 'tarbeck.kittiwake.example', 'shore');
  await page.fill('#place-name', own('picked-host'));
  await expect(page.locator('#follows-place')).toContainText(`${own('picked-host')}.tarbeck.kittiwake.example`);
});

test('a table that shows all there is sorts itself', async ({ page }) => {
  await signIn(page);
  await page.goto('/directory/sites');
  const names = () => page.locator('main tbody td.name').allTextContents();
  const before = await names();
  await page.locator('th .sort', { hasText: 'Site' }).first().click();
  await page.locator('th .sort', { hasText: 'Site' }).first().click();
  expect((await names()).map((n) => n.trim())).toEqual(
    before
      .map((n) => n.trim())
      .sort()
      .reverse(),
  );
});
