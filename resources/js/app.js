import Alpine from '@alpinejs/csp';
import htmx from 'htmx.org';
import { recordFields } from './fields.js';
import { keys } from './keys.js';
import { catchUp, looking } from './looking.js';
import { qr } from './qr.js';
import { quick } from './quick.js';
import { ruler } from './ruler.js';
import { trying } from './try.js';
import { copying } from './copy.js';
import { inrow } from './inrow.js';
import { alone, pickers } from './picker.js';
import { allMatching, intoTable, places, recount, shown, worktables } from './worktable.js';

htmx.config.includeIndicatorStyles = false;
htmx.config.allowEval = false;
htmx.config.scrollIntoViewOnBoost = false;
window.htmx = htmx;

Alpine.data('hosts', () => ({
  needed: '',
  /** A prefix length that holds so many hosts and a gateway. */
  pick() {
    const hosts = Number(this.needed);
    const select = this.$root.querySelector('[name=length]');
    if (!select || !(hosts > 0)) return;
    const fits = [...select.options].filter((o) => Number(o.dataset.usable) >= hosts + 1);
    if (fits.length) {
      select.value = fits[fits.length - 1].value;
      select.dispatchEvent(new Event('change', { bubbles: true }));
    }
  },
}));

document.addEventListener('htmx:afterSwap', (event) => {
  alone(document);
  worktables(event.target);
  places(event.target);
  recount();
  markFields();
  // Whoever types keeps the field before the eye.
  const follows = event.target.querySelector?.('.follows');
  if (follows && document.activeElement?.form?.id !== follows.dataset.form) follows.scrollIntoView({ block: 'nearest' });
});
document.addEventListener('htmx:sendError', () => say('The application does not answer. What you typed is still here; try again.'));
document.addEventListener('htmx:responseError', (event) =>
  say(`That did not work (${event.detail.xhr.status}). What you typed is still here.`),
);

function say(text) {
  const place = document.getElementById('said');
  if (place) {
    place.hidden = false;
    place.textContent = text;
  }
}

/** Marks the field that a blocked check names. */
function markFields() {
  document.querySelectorAll('[aria-invalid=true]').forEach((f) => f.removeAttribute('aria-invalid'));
  document.querySelectorAll('.follows [data-field]').forEach((note) => {
    const form = document.getElementById(note.closest('.follows').dataset.form);
    const field = form?.elements[note.dataset.field] ?? form?.elements[`${note.dataset.field}[]`];
    // Of a field that is being typed in the panel speaks alone.
    if (field instanceof HTMLElement && note.dataset.verdict === 'blocked' && field !== document.activeElement)
      field.setAttribute('aria-invalid', 'true');
  });
}

document.addEventListener('click', (event) => {
  const offer = event.target.closest('[data-offer]');
  if (offer) {
    const form = document.getElementById(offer.closest('.follows').dataset.form);
    const field = form?.elements[offer.dataset.into];
    if (field) {
      field.value = offer.dataset.offer;
      field.dispatchEvent(new Event('change', { bubbles: true }));
      field.focus();
    }
  }
  const chooser = event.target.closest('[data-choose-prefix]');
  const input = document.querySelector('#carve [name=prefix]');
  if (chooser && input) {
    event.preventDefault();
    input.value = chooser.dataset.choosePrefix;
    input
      .closest('form')
      .querySelectorAll('[name=fit-place]')
      .forEach((r) => {
        r.checked = false;
      });
    input.dispatchEvent(new Event('change', { bubbles: true }));
    input.focus();
  }
});
/** A form that works on what is picked in a table takes the picks along when it is sent. */
document.addEventListener('htmx:configRequest', (event) => {
  const names = event.target.dataset?.takesPicks;
  if (!names) return;
  event.detail.parameters[names] = [...document.querySelectorAll('.pick:checked')].map((box) => box.value);
  const all = document.querySelector('[data-all]:checked');
  if (all) event.detail.parameters[all.name] = all.value;
});
document.addEventListener(
  'submit',
  (event) => {
    const names = event.submitter?.form?.dataset?.takesPicks;
    if (!names) return;
    event.submitter.form.querySelectorAll('[data-taken]').forEach((e) => e.remove());
    document.querySelectorAll('.pick:checked, [data-all]:checked').forEach((box) => {
      const name = box.matches('[data-all]') ? box.name : names;
      const input = Object.assign(document.createElement('input'), { type: 'hidden', name, value: box.value });
      input.dataset.taken = '1';
      event.submitter.form.append(input);
    });
  },
  true,
);
document.addEventListener('change', (event) => {
  if (event.target.name === 'fit-place') {
    const input = event.target.form.elements.prefix;
    input.value = event.target.value;
  }
});

keys();
trying();
looking(htmx);

/** A form that goes with what stands in another one sends it as it is now, not as the page came. */
document.addEventListener('submit', ({ target }) => {
  const from = document.getElementById(target.dataset?.copies ?? '');
  if (!from) return;
  for (const [name, value] of new FormData(from)) {
    const own = target.elements[name];
    if (own?.type === 'hidden') own.value = value;
  }
});
quick();
pickers();
worktables(document);
shown();
intoTable();
allMatching();
places(document);
copying();
recordFields(document);
qr();
ruler();
Alpine.start();
inrow((frame) => {
  alone(frame);
  htmx.process(frame);
  worktables(frame);
  places(frame);
  recordFields(frame);
  quick();
  ruler();
  recount();
});

document.addEventListener('click', (event) => {
  const opener = event.target.closest('[data-open]');
  const panel = opener && document.getElementById(opener.dataset.open);
  if (panel) {
    panel.open = true;
    panel.querySelector('input:not([type=hidden]), select')?.focus();
    event.preventDefault();
  }
});

catchUp();
document.documentElement.dataset.ready = '1';
