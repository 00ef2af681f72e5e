import { accessible, atNight, expect, signIn, test } from './world.mjs';

/* Every page that links lead to from the rail and from other pages: one of each kind, whatever object it shows. */

const WCAG = ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'];
/** Files, and what is read by programs. */
const FILES = /\.(csv|json|jsonl|zone|ics|xlsx|pdf|txt|yaml)$|^\/(rdap|api\/v1|pick|sign-out|metrics)\b/;
/** Pages that stand on what was asked for in them; nothing links to them with an answer. */
const ASKED = [
  '/find?q=10.36.8.2',
  '/lease/bytes?bytes=0304c0000201ff',
  '/name/lookup?q=tickets.kittiwake.example',
  '/name/lookup?q=tickets.kittiwake.example&server=all',
  '/name/lookup?q=tickets.kittiwake.example&server=trace',
  '/name/lookup?q=tickets.kittiwake.example&server=back',
  '/name/resolvers?client=10.36.8.20',
  '/name/views?client=10.45.1.9&name=tickets.kittiwake.example',
  '/plan/calculator?p=10.36.8.0/22',
];

/** What kind of page it is: a path without its ids. */
function kind(path) {
  return path
    .split('?')[0]
    .replace(/\/01[0-9A-Z]{24}/g, '/ID')
    .replace(/(\/ID\/drift)\/ID/, '$1');
}

async function look(page, path, wrong) {
  const at = async (what, check) => {
    try {
      await check();
    } catch (e) {
      wrong.push(`${path}, ${what}: ${e.message.split('\n').slice(0, 12).join(' ')}`);
    }
  };
  const answer = await page.goto(path);
  if (!(answer?.headers()['content-type'] ?? '').includes('html')) return [];
  await at('as it comes', async () => expect(answer.status()).toBeLessThan(400));
  const links = await page.evaluate(() => [...document.querySelectorAll('a[href]')].map((a) => a.getAttribute('href')));
  await at('by day', () => accessible(page, (axe) => axe.withTags(WCAG)));
  await at('by night', () => atNight(page));
  await page.setViewportSize({ width: 640, height: 400 });
  await at('at 200 %', async () =>
    expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(1),
  );
  await page.setViewportSize({ width: 1280, height: 800 });
  return links.map((href) => new URL(href, `http://here${path}`)).filter((url) => url.host === 'here').map((url) => url.pathname + url.search);
}

for (const [who, first] of [
  ['maren', ['/bridge', ...ASKED]],
  ['sable', ['/directory/people', '/ship']],
  ['tobin', ['/ship/drafts']],
]) {
  test(`each kind of page that ${who} comes to passes axe in both themes and holds at 200 %`, async ({ page }) => {
    test.setTimeout(600000);
    await signIn(page, who);
    const wrong = [];
    const seen = new Set();
    const waits = [...first];
    const others = new Set(who === 'maren' ? [] : page.context().kinds);
    while (waits.length > 0) {
      const path = waits.shift();
      const of = first.includes(path) ? path : kind(path);
      if (seen.has(of) || FILES.test(path.split('?')[0]) || others.has(of)) continue;
      seen.add(of);
      waits.push(...(await look(page, path, wrong)).filter((next) => !seen.has(kind(next))));
    }
    expect(wrong).toEqual([]);
    console.log([...seen].join(' '));
    expect(seen.size).toBeGreaterThan(who === 'maren' ? 60 : 3);
  });
}
