/**
 * A row is edited where it stands: the page comes anew without being left, so that the place in the list and the row's fields are
 * before the eye. Enter or F2 opens a row, Ctrl+Enter writes it and opens the next one, Esc leaves it.
 */
let coming = null;

export function inrow(fresh) {
  document.addEventListener('click', (event) => {
    const link = event.target.closest('a[data-inrow], a[data-leave]');
    if (!link || event.defaultPrevented || event.button !== 0 || event.ctrlKey || event.metaKey || event.shiftKey || event.altKey) return;
    event.preventDefault();
    visit(link.href, fresh);
  });
  document.addEventListener('keydown', (event) => {
    const row = event.target.closest?.('table[data-worktable] tbody tr');
    if (!row || event.ctrlKey || event.metaKey || event.altKey) return;
    const opener = row.querySelector('a[data-inrow]');
    if (event.key === 'F2' || (event.key === 'Enter' && event.target.matches('input.pick'))) {
      if (!opener) return;
      event.preventDefault();
      opener.click();
    } else if (event.key === 'Escape') {
      const leave = row.querySelector('a[data-leave]');
      // A field that offers closes its offers first.
      if (!leave || event.defaultPrevented) return;
      event.preventDefault();
      leave.click();
    }
  });
  // By key what is written leads to the next row; by a press of the button the row is left.
  document.addEventListener(
    'keydown',
    (event) => {
      // The reason for a warning is typed in the panel: it is of the row all the same.
      const form = event.target.closest?.('tr.editing, tr.addrow')
        ? event.target.form
        : document.getElementById(event.target.closest?.('.follows')?.dataset.form);
      if (form?.dataset.next && form.elements.stay && event.ctrlKey && event.key === 'Enter') form.elements.stay.value = form.dataset.next;
    },
    true,
  );
  document.addEventListener('htmx:beforeOnLoad', (event) => {
    const { xhr, elt } = event.detail;
    const to = xhr.getResponseHeader('HX-Redirect');
    if (!to || !elt.matches?.('form[data-inrow]') || new URL(to, location.href).pathname !== location.pathname) return;
    event.preventDefault();
    visit(to, fresh);
  });
  document.addEventListener('input', ({ target }) => was(target));
  document.addEventListener('change', ({ target }) => was(target));
}

/** Under a field that says something else than what is kept stands what is kept. */
function was(field) {
  // Of a row that is not there yet nothing is kept.
  if (field.dataset?.was === undefined || field.closest('tr.addrow')) return;
  const cell = field.closest('td');
  let said = cell.querySelector('.was');
  const old = field.dataset.was;
  if (field.value === old) return said?.remove();
  if (!said) {
    said = document.createElement('span');
    said.className = 'was';
    said.append('was ', document.createElement('s'));
    cell.append(said);
  }
  said.lastChild.textContent = old === '' ? 'blank' : old;
}

/** The same page again, in place: where it was scrolled to stays, and the focus goes to the row. */
async function visit(address, fresh) {
  coming?.abort();
  coming = new AbortController();
  const before = document.querySelector('tr.editing')?.dataset.row ?? null;
  try {
    const answer = await fetch(address, { signal: coming.signal, credentials: 'same-origin', headers: { Accept: 'text/html' } });
    const page = new DOMParser().parseFromString(await answer.text(), 'text/html');
    const frame = page.querySelector('.frame');
    if (!answer.ok || !frame) {
      location.assign(address);
      return;
    }
    const scrolled = document.getElementById('sheet')?.scrollTop ?? 0;
    document.querySelector('.frame').replaceWith(document.adoptNode(frame));
    document.title = page.title;
    history.replaceState(null, '', answer.url.split('#')[0] + new URL(address, location.href).hash);
    document.getElementById('sheet').scrollTop = scrolled;
    fresh(frame);
    stand(frame, before);
  } catch (error) {
    if (error.name !== 'AbortError') location.assign(address);
  }
}

function stand(frame, before) {
  const row = frame.querySelector('tr.editing') ?? (location.hash === '#addrow' ? frame.querySelector('tr.addrow') : null);
  const field = row?.querySelector('[autofocus]') ?? row?.querySelector('input:not([type=hidden], .pick), select');
  if (field) {
    field.focus({ preventScroll: true });
    field.select?.();
    row.scrollIntoView({ block: 'nearest' });
  } else if (before) {
    frame.querySelector(`tr[data-row="${CSS.escape(before)}"] a[data-inrow]`)?.focus();
  }
}
