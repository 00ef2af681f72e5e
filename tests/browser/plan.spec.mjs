import { accessible, commit, expect, open, pick, ships, signIn, test } from './world.mjs';

const NEEDS = 'site,purpose,hosts,growth,years,v6,vlan\nReed Point,Voice,40,5,3,yes,140\n';

const spaceOf = async (page) => {
  await page.goto('/plan');
  return page
    .locator('a', { hasText: 'Planner' })
    .getAttribute('href')
    .then((href) => href.split('/')[2]);
};

test('a table of needs becomes a plan that is taken over as one', async ({ page }) => {
  await signIn(page);
  const space = await spaceOf(page);
  await page.goto(`/plan/${space}/planner`);
  await accessible(page);
  await page.fill('#in', '10.46.64.0/18 2001:db8:4bf0::/44');
  await page.fill('#needs', NEEDS + 'Reed Point,CCTV,180,10,3,no,120+\nReed Point,Gates,x,0,0,no,150\n');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('alert').last()).toContainText('Line 4, hosts');
  await page.fill('#needs', NEEDS + 'Reed Point,CCTV,180,10,3,no,120+\nSalt Stair,Gates,12,0,0,no,150\n');
  await page.keyboard.press('Control+Enter');
  await expect(page.locator('main')).toContainText('tight, shown below');
  await page.getByRole('button', { name: 'Show room' }).click();
  await expect(page.locator('main')).toContainText('room, shown below');
  await accessible(page);
  await page.getByRole('button', { name: 'Show what follows' }).click();
  await expect(page.locator('.follows')).toContainText('Site Reed Point');
  await expect(page.locator('.follows')).toContainText('VLAN 140 VOICE');
  await commit(page);
  await expect(page.getByRole('status')).toContainText('done');
  await page.goto('/directory/sites');
  await page.getByRole('link', { name: 'Reed Point', exact: true }).click();
  await expect(page.locator('main')).toContainText('CCTV');
  await accessible(page);
});

test('a subnet is moved with old and new side by side, and back', async ({ page }) => {
  await signIn(page);
  await open(page, '10.42.22.0/24', 'Gates, quay 1');
  const url = page.url();
  await page.locator('summary', { hasText: 'Reshape' }).click();
  await page.fill('#move-to', '10.36.40.0/24');
  await page.press('#move-to', 'Enter');
  await expect(page.locator('main')).toContainText('Old and new');
  await accessible(page);
  await page.getByRole('button', { name: 'Show what follows' }).click();
  await expect(page.locator('.follows')).toContainText('To go back, move it to 10.42.22.0/24');
  await commit(page);
  await expect(page.locator('main')).toContainText('10.36.40.0/24');
  await page.goto(`${url}/move?to=10.42.22.0/24`);
  await page.getByRole('button', { name: 'Show what follows' }).click();
  await commit(page);
  await expect(page.locator('main')).toContainText('10.42.22.0/24');
});

test('a subnet is split, and the pieces merge again', async ({ page }) => {
  await signIn(page);
  await open(page, '10.42.23.0/24', 'Plant, quay 1');
  await page.locator('summary', { hasText: 'Reshape' }).click();
  await page.getByRole('button', { name: 'Split', exact: true }).click();
  await expect(page.locator('.follows')).toContainText('becomes 2 /25');
  await commit(page);
  await expect(page.locator('main')).toContainText('10.42.23.128/25');
  await page.locator('tr', { hasText: '10.42.23.0/25' }).getByRole('link', { name: 'Plant, quay 1', exact: true }).click();
  await page.locator('summary', { hasText: 'Reshape' }).click();
  await page.getByRole('button', { name: 'Merge', exact: true }).click();
  await expect(page.locator('.follows')).toContainText('Prefix');
  await commit(page);
  await expect(page.locator('h1 + .mono')).toContainText('10.42.23.0/24');
});

test('the ruler zooms by key, lights up what is found, and open water is chosen by dragging', async ({ page }) => {
  await signIn(page);
  await open(page, '10.32.0.0/12', 'Kittiwake Ferries');
  await page.fill('#filter', 'tag:public');
  await page.press('#filter', 'Enter');
  await expect(page.locator('.lane .lit').first()).toBeVisible();
  await expect(page.locator('.lane .dim').first()).toBeVisible();
  await open(page, '10.32.0.0/12', 'Kittiwake Ferries');
  await page.locator('.lane a').first().focus();
  await page.keyboard.press('+');
  await expect(page.locator('html[data-ready] [data-ruler]')).toHaveAttribute('data-ruler', '10.32.0.0/14');
  await page.keyboard.press('-');
  await expect(page.locator('[data-ruler]')).toHaveAttribute('data-ruler', '10.32.0.0/12');
  await page.goto(`${page.url().split('?')[0]}?zoom=10.38.0.0/16`);
  const water = page.locator('.lane a[data-choose-prefix="10.38.128.0/17"]');
  const box = await water.boundingBox();
  await page.mouse.move(box.x + box.width * 0.51, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.7, box.y + box.height / 2, { steps: 5 });
  await page.mouse.up();
  await expect(page.locator('#carve-prefix')).toHaveValue('10.38.192.0/19');
  await expect(page.locator('.follows')).toContainText('Starts on a /19 boundary');
});

test('settings flow down: overridden here, given back again', async ({ page }) => {
  await signIn(page);
  await open(page, '10.36.8.0/22', 'Ticketing, quay 1');
  const panel = page.locator('details', { hasText: 'Settings that flow down' });
  await panel.locator('> summary').click();
  await expect(panel).toContainText('tarbeck.kittiwake.example');
  await panel.locator('summary', { hasText: 'Set here' }).click();
  await page.selectOption('#setting-key', 'domain');
  await page.fill('#setting-value', 'till.kittiwake.example');
  await page.press('#setting-value', 'Tab');
  await expect(page.locator('#follows-setting')).toContainText('1 subnet takes its value from here');
  await commit(page.locator('#follows-setting'));
  await panel.locator('> summary').click();
  await expect(panel).toContainText('hides Tarbeck: tarbeck.kittiwake.example');
  await panel.locator('summary', { hasText: 'Set here' }).click();
  await page.selectOption('#setting-key', 'domain');
  await expect(page.locator('#follows-setting')).toContainText('Give back');
  await commit(page.locator('#follows-setting'));
  await panel.locator('> summary').click();
  await expect(panel).not.toContainText('hides Tarbeck');
});

test('several hosts are placed by a list, a run is held', async ({ page }) => {
  await signIn(page, 'ilke');
  await open(page, '10.36.23.0/24', 'Plant, quay 1');
  await page.locator('summary', { hasText: 'Place several' }).click();
  await page.fill('#several-names', 'pump 00:00:5e:00:53:d1\nvalve 00:00:5e:00:53:d2');
  await pick(page, '#several-zone', 'tarbeck.kittiwake.example', 'shore');
  await expect(page.locator('#follows-several')).toContainText('pump.tarbeck.kittiwake.example');
  await commit(page.locator('#follows-several'));
  await expect(page.getByRole('status')).toContainText('done');
  await page.fill('#filter', 'valve');
  await page.press('#filter', 'Enter');
  await expect(page.locator('tr', { hasText: 'valve.tarbeck' })).toBeVisible();
  await page.locator('summary', { hasText: 'Hold a run' }).click();
  await page.fill('#hold-range', '10.36.23.200-10.36.23.209');
  await page.fill('#hold-why', 'spare pumps');
  await page.press('#hold-why', 'Tab');
  await commit(page.locator('#follows-hold'));
  await expect(page.locator('main')).toContainText('spare pumps');
  await accessible(page);
});

test('a scan says what is needed, runs, and what it found is taken in', async ({ page }) => {
  await signIn(page, 'ilke');
  await open(page, '10.36.8.0/22', 'Ticketing, quay 1');
  await page.getByRole('link', { name: 'Evidence' }).click();
  await expect(page.locator('main')).toContainText('in use as planned');
  await accessible(page);
  await page.getByRole('link', { name: 'Scan', exact: true }).click();
  await expect(page.getByLabel('Preflight')).toContainText('keel1 answers');
  await accessible(page);
  await page.keyboard.press('Control+Enter');
  await expect(page.locator('main')).toContainText('done; 1,022 of 1,022 asked', { timeout: 30000 });
  await page.getByRole('link', { name: /unknown$/ }).click();
  await accessible(page);
  await page.getByLabel('Pick 10.36.8.150').check();
  await expect(page.locator('.follows')).toContainText('Address 10.36.8.150');
  await commit(page);
  await page.goto('/find?q=10.36.8.150');
  await expect(page.locator('main')).toContainText('00:00:5e:00:53:c0');
});

test('the VLAN sheet names what differs and offers what mends it', async ({ page }) => {
  await signIn(page);
  await page.goto('/directory/vlans?filter=is:wrong');
  await accessible(page);
  await page.getByRole('button', { name: 'Read them now' }).click();
  await expect(page.getByRole('status')).toContainText('VLANs read from the switches');
  await page.goto('/directory/vlans?filter=is:wrong');
  const row = page.locator('tr', { hasText: 'there it is' }).first();
  await row.locator('td.name a').click();
  await accessible(page);
  await page.getByRole('button', { name: /^Take [a-z]/ }).click();
  await expect(page.locator('main')).toContainText('What follows');
  await commit(page);
  await expect(page.locator('main')).toContainText('same name');
});

test('any prefix typed anywhere has a page', async ({ page }) => {
  await signIn(page, 'wick');
  await page.fill('#find', '10.36.9.77/22');
  await page.press('#find', 'Enter');
  await page.locator('.facts').getByRole('link', { name: '10.36.8.0/22' }).click();
  await expect(page).toHaveURL(/plan\/calculator\?p=10\.36\.8\.0%2F22/);
  await page.selectOption('#split', '24');
  await page.getByRole('button', { name: 'Show', exact: true }).click();
  await expect(page.locator('main')).toContainText('10.36.11.0/24');
  await accessible(page);
  await page.goto('/plan/summary');
  await page.selectOption('#site', { label: 'Tarbeck' });
  await page.keyboard.press('Control+Enter');
  await expect(page.locator('main')).toContainText('subnets and pools');
  await accessible(page);
});

test('sixteen planners carving at once get sixteen subnets', async ({ page }) => {
  await signIn(page);
  await open(page, '10.32.0.0/12', 'Kittiwake Ferries');
  await expect(page.locator('#carve [name=_token]')).toBeAttached();
  const form = await page.evaluate(() => ({
    token: document.querySelector('#carve [name=_token]').value,
    space: document.querySelector('#carve [name=space]').value,
    in: document.querySelector('#carve [name=in]').value,
  }));
  const answers = await Promise.all(
    Array.from({ length: 16 }, (_, i) =>
      page.request.post('/act/carve-prefix', {
        form: { _token: form.token, space: form.space, in: form.in, length: '26', fit: 'first', name: `Race ${i}`, then: 'commit' },
      }),
    ),
  );
  expect(answers.map((a) => a.status())).toEqual(Array(16).fill(200));
  const rows = await (await page.request.get(`/plan/${form.space}/export.json`)).json();
  const raced = rows.filter((r) => r.name?.startsWith('Race ')).map((r) => r.prefix);
  expect(new Set(raced).size).toBe(16);
});

test('a part of open space is chosen on the ruler by keyboard', async ({ page }) => {
  await signIn(page);
  await page.goto('/plan');
  const block = page.locator('svg.strip a[data-choose-prefix]').last();
  const whole = await block.getAttribute('data-choose-prefix');
  await block.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Shift+ArrowRight');
  const said = page.locator('[data-said]');
  await expect(said).toContainText(`/${Number(whole.split('/')[1]) + 2} chosen`);
  const chosen = (await said.innerText()).split(' ')[0];
  await page.keyboard.press('Enter');
  await expect(page.locator('#carve [name=prefix]')).toHaveValue(chosen);
  await expect(page.locator('.follows')).toContainText(chosen);
  await block.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Escape');
  await expect(page.locator('svg.strip rect.pick')).toHaveCount(0);
});

test('a switch is brought in step from the sheet, and reverse zones are made for prefixes', async ({ page }) => {
  await signIn(page);
  await page.goto('/directory/vlans?filter=is:wrong+120');
  await accessible(page);
  await page.locator('td.name a', { hasText: 'CCTV' }).first().click();
  await page.getByRole('link', { name: 'Set it on the switch' }).first().click();
  await accessible(page);
  await ships(page, () => page.getByRole('button', { name: 'Ship and verify' }).click(), '1 of 1 shipped and proved');
  await page.goto('/name/reverse?nets=10.46.200.64/26');
  await accessible(page);
  await page.getByRole('button', { name: 'Show what follows' }).click();
  await expect(page.locator('.follows')).toContainText('64/26.200.46.10.in-addr.arpa');
  await commit(page);
  await expect(page.getByRole('status')).toContainText('done');
  await expect(page.locator('main')).toContainText('Reverse zones');
});
