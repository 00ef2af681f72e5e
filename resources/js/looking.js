/**
 * What follows keeps up with what is typed. A form is asked about while one types, as soon as one pauses; what is sent while the
 * panel lags behind is looked at first.
 */
const PAUSE = 500;
const waiting = new WeakMap();
const waits = new WeakMap();
// How often a form was changed, and of which state an answer speaks: what speaks of an earlier one is not shown as what follows.
const changes = new WeakMap();
const speaksOf = new WeakMap();
let sent = null;

/** Does this field say something about the act? The reason and the password do not: they change nothing of it. */
const counts = (field) =>
  field.form?.matches('[hx-post]') && !['reason', 'sure'].includes(field.name) && !field.form.dataset.sending && !isQuiet(field);

/** Rows that are picked for an edit of all of them say nothing yet, as long as no field of it is filled. */
const isPick = (field) => field.matches('.pick, [data-all]');
const isQuiet = (field) =>
  isPick(field) && field.form.dataset.quietPicks !== undefined && ![...field.form.elements].some((f) => !isPick(f) && isChanged(f));

/** Who leaves a field says nothing that was not looked at while it was typed. */
const isHeard = (event) =>
  event.type === 'change' &&
  event.isTrusted &&
  !event.target.form.dataset.unseen &&
  event.target.matches('input:not([type=checkbox], [type=radio], [type=file]), textarea');

const isSlot = (element) => element.id?.startsWith('follows-') && element.id !== 'follows-said';

/** Was this field changed from what the page came with? */
const isChanged = (field) =>
  field.matches('[type=checkbox], [type=radio]')
    ? field.checked !== field.defaultChecked
    : field.matches('select')
      ? [...field.options].some((o) => o.defaultSelected) && [...field.options].some((o) => o.selected !== o.defaultSelected)
      : field.matches('input:not([type=hidden]), textarea') && field.value !== field.defaultValue;

/** What was typed before the script was there is heard now. */
export function catchUp() {
  for (const form of document.querySelectorAll('form[hx-trigger="hp:look"]'))
    for (const field of form.elements) if (isChanged(field)) field.dispatchEvent(new Event('input', { bubbles: true }));
}

/** Where it is told what an act of this form would do; a form in a row may share the panel of the page. */
const slotOf = (form) => form.getAttribute('hx-target') ?? `#follows-${form.id}`;

export function looking(htmx) {
  const changed = (form, pause) => {
    // Who goes on typing has taken back what was sent too early; nothing is written that was not asked for since.
    sent = null;
    form.dataset.unseen = '1';
    changes.set(form, (changes.get(form) ?? 0) + 1);
    clearTimeout(waiting.get(form));
    waiting.set(
      form,
      setTimeout(() => htmx.trigger(form, 'hp:look'), pause),
    );
  };
  const look = (pause) => (event) => {
    if (counts(event.target) && !isHeard(event)) changed(event.target.form, pause);
  };
  // What is looked at need not be complete: a reason that is asked for is missing until it is sent.
  document.addEventListener('htmx:confirm', ({ target }) => {
    if (target.matches?.('form[hx-trigger="hp:look"]')) target.noValidate = true;
  });
  // A form that has all it needs is looked at as soon as it is there.
  document.querySelectorAll('form[data-look]').forEach((form) => setTimeout(() => htmx.trigger(form, 'hp:look'), 0));
  document.addEventListener('input', look(PAUSE));
  document.addEventListener('change', look(0));
  for (const failed of ['htmx:sendError', 'htmx:responseError', 'htmx:timeout'])
    document.addEventListener(failed, () => {
      sent = null;
    });
  document.addEventListener(
    'submit',
    (event) => {
      const form = event.target;
      const then = event.submitter?.value;
      if (then === 'preview' && form.matches?.('[hx-trigger="hp:look"]')) {
        event.preventDefault();
        event.stopImmediatePropagation();
        htmx.trigger(form, 'hp:look');
        return;
      }
      if (!form.matches?.('[hx-post]') || !['commit', 'draft'].includes(then)) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      if (form.dataset.unseen) {
        sent = { form: form.id, value: then, seen: words(document.querySelector(slotOf(form))) };
        clearTimeout(waiting.get(form));
        htmx.trigger(form, 'hp:look');
      } else if (!form.dataset.sending && (event.submitter.formNoValidate || form.reportValidity())) {
        send(htmx, form, then, event.submitter.formAction);
      }
    },
    true,
  );

  const isStale = ({ elt, xhr }) => speaksOf.has(xhr) && speaksOf.get(xhr) !== changes.get(elt);
  document.addEventListener('htmx:beforeSend', ({ detail: { elt, xhr } }) => {
    if (changes.has(elt)) speaksOf.set(xhr, changes.get(elt));
  });
  document.addEventListener('htmx:afterRequest', ({ detail }) => {
    if (!isStale(detail)) return;
    clearTimeout(waiting.get(detail.elt));
    waiting.set(
      detail.elt,
      setTimeout(() => htmx.trigger(detail.elt, 'hp:look'), 0),
    );
  });

  let focused = null;
  let typed = {};
  document.addEventListener('htmx:beforeSwap', (event) => {
    if (!isSlot(event.target)) return;
    if (isStale({ elt: event.detail.requestConfig.elt, xhr: event.detail.xhr })) {
      event.detail.shouldSwap = false;
      return;
    }
    focused = event.target.contains(document.activeElement) ? document.activeElement.name : null;
    // What is typed in the panel while it comes anew is kept.
    typed = Object.fromEntries(['reason', 'sure'].map((name) => [name, event.target.querySelector(`[name=${name}]`)?.value ?? '']));
    if (!waits.has(event.target)) waits.set(event.target, event.target.innerHTML);
  });
  document.addEventListener('keydown', (event) => {
    if (event.key === 'Escape' && !event.target.closest('.find')) closeOthers(null);
  });
  document.addEventListener('htmx:afterSwap', (event) => {
    if (!isSlot(event.target)) {
      // A part of a form that came anew says something else: where a block of another size fits.
      const own = event.target.closest?.('form[hx-trigger="hp:look"]');
      if (own && event.detail.requestConfig?.elt.form === own) changed(own, 0);
      return;
    }
    for (const [name, value] of Object.entries(typed)) {
      const field = event.target.querySelector(`[name=${name}]`);
      // A password that was not right is not offered again.
      if (field && value !== '' && !(name === 'sure' && event.target.querySelector('.wrong'))) field.value = value;
    }
    const form = document.getElementById(event.target.querySelector('.follows')?.dataset.form);
    if (form) delete form.dataset.unseen;
    if (sent && sent.form === form?.id) again(event.target);
    closeOthers(event.target);
    if (focused) (event.target.querySelector(`[name="${CSS.escape(focused)}"]`) ?? form?.querySelector('[aria-invalid=true]'))?.focus();
    uncover(event.target, form);
    tell(event.target);
  });
}

/** One panel speaks at a time; the others say again that they wait. */
function closeOthers(speaking) {
  document.querySelectorAll('[id^="follows-"]:has(> .follows)').forEach((slot) => {
    if (slot !== speaking && waits.has(slot)) slot.innerHTML = waits.get(slot);
  });
}

/** Commits without leaving the page: what cannot be written is said in the panel, and what was typed stays; what is done leads on. */
function send(htmx, form, then, address) {
  form.dataset.sending = '1';
  htmx
    .ajax('POST', address, { source: form, target: slotOf(form), swap: 'innerHTML', values: { then } })
    .finally(() => delete form.dataset.sending);
}

/** What was sent before it was shown: when it is what stood there, it goes on its way; else it is shown, and sent by another press. */
function again(slot) {
  const { value, seen } = sent;
  sent = null;
  const button = slot.querySelector(`button[value="${value}"]`);
  if (button && words(slot) === seen) return button.click();
  const hint = Object.assign(document.createElement('p'), {
    className: 'hint warn',
    textContent: 'You were faster than this panel. Look, then send it.',
  });
  slot.querySelector('.decide')?.before(hint);
  button?.focus();
}

const words = (slot) => slot?.querySelector('.follows')?.textContent.replace(/\s+/g, ' ');

/** On a narrow screen the panel is a foot: the field that is being typed in does not stay under it. */
function uncover(slot, form) {
  const field = document.activeElement;
  const panel = slot.querySelector('.follows');
  if (!panel || field?.form !== form || slot.contains(field)) return;
  const [a, b] = [field.getBoundingClientRect(), panel.getBoundingClientRect()];
  if (a.bottom > b.top && a.top < b.bottom && a.right > b.left && a.left < b.right) field.scrollIntoView({ block: 'center' });
}

/** Says the upshot to who does not see the panel: one line, not the whole of it. */
function tell(slot) {
  const said = document.getElementById('follows-said');
  if (said) said.textContent = slot.querySelector('.follows')?.dataset.upshot ?? '';
}
