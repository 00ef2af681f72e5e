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
    .replace(/\/(01[0-9A-Z]{24}|\d+)(?=\/|$)/g, '/ID')
    .replace(/(\/ID\/drift)\/ID/, '$1');
}

async function look(page, path, from, wrong) {
  const at = async (what, check) => {
    try {
      await check();
    } catch (e) {
      wrong.push(`${path} (from ${from}), ${what}: ${e.message.split('\n').slice(0, 12).join(' ')}`);
    }
  };
  // What is taken as a file is no page.
  const answer = await page.goto(path).catch((e) => (e.message.includes('Download is starting') ? null : Promise.reject(e)));
  if (!(answer?.headers()['content-type'] ?? '').includes('html')) return [];
  await at('as it comes', async () => expect(answer.status()).toBeLessThan(400));
  const links = await page.evaluate(() => [...document.querySelectorAll('a[href]')].map((a) => a.getAttribute('href')));
  await at('by day', () => accessible(page, (axe) => axe.withTags(WCAG)));
  // Paper stays paper.
  if (!(await page.locator('body.paper').count())) await at('by night', () => atNight(page));
  await page.setViewportSize({ width: 640, height: 400 });
  // The page itself does not scroll aside, nor does the sheet that it stands on.
  await at('at 200 %', async () => {
    const wider = () => Math.max(...[...document.querySelectorAll('html, .sheet')].map((e) => e.scrollWidth - e.clientWidth));
    expect(await page.evaluate(wider)).toBeLessThanOrEqual(2);
  });
  await page.setViewportSize({ width: 1280, height: 800 });
  return links
    .map((href) => new URL(href, `http://here${path}`))
    .filter((url) => url.host === 'here')
    .map((url) => url.pathname + url.search);
}

/** Pages that a planner and operator comes to are looked at once; those of a steward and of an approver beside them. */
const seen = new Set();

for (const [who, first] of [
  ['maren', ['/bridge', ...ASKED]],
  ['sable', ['/directory/people', '/ship/hooks']],
  ['tobin', ['/ship/drafts']],
]) {
  test(`each kind of page that ${who} comes to passes axe in both themes and holds at 200 %`, async ({ page }) => {
    test.setTimeout(900000);
    await signIn(page, who);
    const wrong = [];
    const waits = first.map((path) => [path, 'the rail']);
    while (waits.length > 0) {
      const [path, from] = waits.shift();
      const of = first.includes(path) ? path : kind(path);
      if (seen.has(of) || FILES.test(path.split('?')[0])) continue;
      seen.add(of);
      const links = await look(page, path, from, wrong);
      waits.push(...links.filter((next) => !seen.has(kind(next))).map((next) => [next, path]));
    }
    expect(wrong).toEqual([]);
    expect(seen.size).toBeGreaterThan(70);
  });
}
