/**
 * A text field that offers while one types, and takes what was chosen by its id. What was typed and not chosen is sent as it is: the
 * server understands a prefix, a number or a name.
 */
const PAUSE = 120;

/**
 * What stands there for pages without script is taken for fields by whoever parses a part of a page with script switched off: such a
 * field would be sent behind the chosen one, and win.
 */
export function alone(root) {
  root.querySelectorAll('.picker noscript').forEach((spare) => spare.remove());
}

export function pickers() {
  document.addEventListener('input', ({ target }) => {
    const picker = of(target);
    if (!picker) return;
    id(picker).value = target.value.trim() === '' ? (picker.dataset.none ?? '') : target.value;
    // What was offered for other letters, or still comes for them, is not taken for these.
    picker.asked = null;
    list(picker).replaceChildren();
    close(picker);
    clearTimeout(picker.waits);
    picker.waits = setTimeout(() => offer(picker, target.value), PAUSE);
  });
  document.addEventListener('focusin', ({ target }) => {
    const picker = of(target);
    if (picker && target.value === '') offer(picker, '');
  });
  document.addEventListener('focusout', ({ target }) => {
    const picker = of(target);
    if (picker) setTimeout(() => close(picker), 150);
  });
  document.addEventListener('keydown', (event) => {
    const picker = of(event.target);
    if (picker) walk(picker, event);
  });
  document.addEventListener('mousedown', (event) => {
    const option = event.target.closest?.('.picker [role=option]');
    if (!option) return;
    event.preventDefault();
    take(option.closest('.picker'), option);
  });
}

const of = (target) => (target?.matches?.('.picker [role=combobox]') ? target.closest('.picker') : null);
const id = (picker) => picker.querySelector('[data-picked-id]');
const field = (picker) => picker.querySelector('[role=combobox]');
const list = (picker) => picker.querySelector('[role=listbox]');
const chosen = (picker) => list(picker).querySelector('[aria-selected=true]');

async function offer(picker, text) {
  const asked = new URLSearchParams({ q: text, only: picker.dataset.only ?? '' });
  picker.asked = String(asked);
  let found = [];
  try {
    const answer = await fetch(`/pick/${encodeURIComponent(picker.dataset.pick)}?${asked}`, { headers: { Accept: 'application/json' } });
    found = answer.ok ? await answer.json() : [];
  } catch {
    return;
  }
  if (picker.asked !== String(asked) || document.activeElement !== field(picker)) return;
  list(picker).replaceChildren(
    ...found.map(({ id: own, label, hint }, i) => {
      const option = Object.assign(document.createElement('li'), { id: `${field(picker).id}-${i}`, role: 'option' });
      option.dataset.id = own;
      option.dataset.label = label;
      option.append(Object.assign(document.createElement('span'), { textContent: label }));
      option.append(Object.assign(document.createElement('span'), { textContent: hint, className: 'hint' }));
      return option;
    }),
  );
  list(picker).hidden = found.length === 0;
  field(picker).setAttribute('aria-expanded', String(found.length > 0));
}

function close(picker) {
  list(picker).hidden = true;
  field(picker).setAttribute('aria-expanded', 'false');
  field(picker).removeAttribute('aria-activedescendant');
}

function take(picker, option) {
  field(picker).value = option.dataset.label;
  id(picker).value = option.dataset.id;
  // An answer still under way does not open again what was just closed.
  clearTimeout(picker.waits);
  picker.asked = '';
  close(picker);
  id(picker).dispatchEvent(new Event('change', { bubbles: true }));
}

function walk(picker, event) {
  if (event.key === 'Escape' && !list(picker).hidden) {
    event.preventDefault();
    close(picker);
  } else if (event.key === 'Enter' && !list(picker).hidden && !event.ctrlKey) {
    // While it offers, the key takes what is offered first: the form is sent when it offers nothing.
    event.preventDefault();
    take(picker, chosen(picker) ?? list(picker).firstElementChild);
  } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    const options = [...list(picker).children];
    if (list(picker).hidden || options.length === 0) return;
    event.preventDefault();
    const step = event.key === 'ArrowDown' ? 1 : -1;
    const next = options[(options.indexOf(chosen(picker)) + step + options.length) % options.length] ?? options[0];
    options.forEach((option) => option.setAttribute('aria-selected', String(option === next)));
    next.scrollIntoView({ block: 'nearest' });
    field(picker).setAttribute('aria-activedescendant', next.id);
  }
}
