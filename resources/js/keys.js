/** Keys that hold on every page; `?` shows those of this one. */
const common = [
  ['/', 'find'],
  ['g, then p n l s w d', 'go to Plan, Name, Lease, Ship, Watch, Directory'],
  ['Ctrl+Enter', 'what the main button says'],
  ['Ctrl+Shift+Enter', 'commit now'],
  ['Esc', 'leave'],
  ['↑ ↓', 'move in a table'],
  ['← →', 'move along a strip'],
  ['Enter', 'open'],
  ['c', 'copy the figure of this row'],
  ['F2', 'edit the row where it stands; Ctrl+Enter goes on to the next, Esc leaves it'],
  ['1 2 3', 'what is offered next, after something was done'],
  ['?', 'this list'],
];

export function keys() {
  document.addEventListener('keydown', (event) => {
    const typing = event.target.matches('input:not([type=checkbox],[type=radio]), textarea, select');
    if (event.key === 'Escape') return leave(event, typing);
    if (event.ctrlKey && event.key === 'Enter') return press(event);
    if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
    if (going) return go(event);
    if (event.key === 'g') return wait();
    if (/^[1-9]$/.test(event.key)) return document.querySelectorAll('[data-step]')[event.key - 1]?.click();
    if (event.key === 'n') return reach(event, document.getElementById('sheet')?.dataset.work);
    if (event.key === 'e') return reach(event, document.getElementById('sheet')?.dataset.edit);
    if (event.key === '/') {
      event.preventDefault();
      document.getElementById('find')?.select();
    } else if (event.key === 'f' && document.getElementById('filter')) {
      event.preventDefault();
      document.getElementById('filter').select();
    } else if (event.key === '?') {
      toggleHelp();
    } else if (event.key === 'ArrowRight' || event.key === 'ArrowLeft') {
      along(event);
    }
  });
}

const PLACES = { p: '/plan', n: '/name', l: '/lease', s: '/ship', w: '/watch', d: '/directory' };
let going = null;

/** `g` and a letter, soon after each other, go to a place of the rail. */
function wait() {
  going = setTimeout(() => {
    going = null;
  }, 1500);
}

function go(event) {
  clearTimeout(going);
  going = null;
  if (PLACES[event.key]) {
    event.preventDefault();
    document.querySelector(`.rail a[href="${PLACES[event.key]}"]`)?.click();
  }
}

/** Opens what holds an element and stands in its first field. */
export function reach(event, id) {
  const target = id && document.getElementById(id);
  if (!target) return;
  event.preventDefault();
  for (let panel = target.closest('details'); panel; panel = panel.parentElement.closest('details')) panel.open = true;
  const first = [...(target.elements ?? target.querySelectorAll('input, select, textarea'))].find(
    (field) => field.matches('input:not([type=hidden]), select, textarea') && field.offsetParent !== null,
  );
  (first ?? target).focus();
  target.scrollIntoView({ block: 'nearest' });
}

function press(event) {
  const button =
    document.querySelector(event.shiftKey ? '[data-key=commit]' : '[data-key=main]') ?? event.target.form?.querySelector('[data-key=main]');
  if (button && !button.disabled) {
    event.preventDefault();
    button.click();
  } else if (event.target.form) {
    event.preventDefault();
    // Where What follows says nothing yet, the key asks for it: it does not lead away from the page.
    if (event.target.form.matches('[hx-post]')) window.htmx.trigger(event.target.form, 'hp:look');
    else event.target.form.requestSubmit();
  }
}

function leave(event, typing) {
  document.querySelector('.keyhelp')?.remove();
  document.querySelectorAll('details.me[open]').forEach((d) => d.removeAttribute('open'));
  if (typing) event.target.blur();
}

/** Arrows move from block to block of a strip. */
function along(event) {
  const strip = document.activeElement?.closest('.strip');
  if (!strip) return;
  const blocks = [...document.activeElement.closest('.lane').querySelectorAll(':scope > a')];
  const next = blocks[blocks.indexOf(document.activeElement.closest('a')) + (event.key === 'ArrowRight' ? 1 : -1)];
  if (next) {
    event.preventDefault();
    next.focus();
  }
}

document.addEventListener('click', (event) => {
  const skip = event.target.closest('[data-reach]');
  if (skip) reach(event, skip.dataset.reach);
});

function toggleHelp() {
  const open = document.querySelector('.keyhelp');
  if (open) return open.remove();
  const help = document.createElement('div');
  help.className = 'keyhelp';
  help.setAttribute('role', 'dialog');
  help.setAttribute('aria-label', 'Keys of this page');
  const page = [...document.querySelectorAll('[data-help-key]')].map((e) => [e.dataset.helpKey, e.dataset.helpText]);
  for (const [key, text] of [...page, ...common]) {
    const k = document.createElement('kbd');
    k.textContent = key;
    const t = document.createElement('span');
    t.textContent = text;
    help.append(k, t);
  }
  const about = document.createElement('a');
  about.href = `/guide/about?page=${encodeURIComponent(location.pathname)}`;
  about.textContent = 'About this page';
  help.append(about);
  help.tabIndex = -1;
  document.body.append(help);
  help.focus();
}
