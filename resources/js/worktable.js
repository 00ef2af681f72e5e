/** From the filter of a list into its first row. */
export function intoTable() {
  document.addEventListener('keydown', (event) => {
    if (event.key !== 'ArrowDown' || event.target.id !== 'filter') return;
    const row = document.querySelector('table[data-worktable] tbody tr:has(a, button, input, select)');
    const target = row && focusables(row)[0];
    if (target) {
      event.preventDefault();
      target.focus();
    }
  });
}

/** Tables that are worked in: arrows move between rows, the first box picks all, the bar counts what is picked. */
export function worktables(root) {
  root.querySelectorAll?.('table[data-worktable]').forEach((table) => {
    if (table.dataset.ready) return;
    table.dataset.ready = '1';
    sortable(table);
    table.addEventListener('keydown', (event) => {
      if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
      if (event.target.matches('select')) return;
      const rows = [...table.querySelectorAll('tbody tr')];
      const row = event.target.closest('tr');
      const column = row ? focusables(row).indexOf(event.target) : 0;
      const next = rows[rows.indexOf(row) + (event.key === 'ArrowDown' ? 1 : -1)];
      const target = next && (focusables(next)[column] ?? focusables(next)[0]);
      if (target) {
        event.preventDefault();
        target.focus();
      }
    });
    table.addEventListener('change', (event) => {
      if (event.target.matches('[data-pick-all]')) {
        table.querySelectorAll('.pick').forEach((box) => {
          box.checked = event.target.checked;
        });
      }
      count(table);
    });
    count(table);
  });
}

function focusables(row) {
  return [...row.querySelectorAll('a, button, input, select, [tabindex="0"]')];
}

/** All that match: what is said to be picked follows, and the rows of the page are picked with it. */
export function allMatching() {
  document.addEventListener('change', ({ target }) => {
    if (!target.matches('[data-all]')) return;
    if (target.checked) {
      document.querySelectorAll('table[data-worktable] .pick').forEach((box) => {
        box.checked = true;
      });
    }
    recount();
  });
}

/** Says anew how many rows are picked, for parts of the page that came later. */
export function recount() {
  document.querySelectorAll('table[data-worktable]').forEach(count);
}

function count(table) {
  const picked = table.querySelectorAll('tbody .pick:checked').length;
  const all = document.querySelector('[data-all]');
  // Fewer than a page are not all that match.
  if (all && table.querySelector('tbody .pick:not(:checked)')) all.checked = false;
  const said = all?.checked ? all.dataset.all : String(picked);
  document.querySelectorAll('[data-picked]').forEach((e) => {
    e.textContent = said;
  });
  document.querySelectorAll('[data-needs-pick]').forEach((e) => {
    e.hidden = picked === 0;
  });
}

/** Heads stay in sight unless a table is wider than its place: only then does it scroll by itself. */
export function places(root) {
  const watch = new ResizeObserver((entries) => entries.forEach(({ target }) => fit(target)));
  root.querySelectorAll?.('.scroll-x').forEach((place) => watch.observe(place));
}

function fit(place) {
  const table = place.querySelector(':scope > table');
  if (table) place.classList.toggle('fits', table.scrollWidth <= place.clientWidth + 1);
}

/** A table that shows all there is sorts itself by every head; one that is a page of a list is sorted by the server. */
function sortable(table) {
  if (table.dataset.paged !== undefined || table.tBodies.length !== 1 || !table.tHead) return;
  const rows = [...table.tBodies[0].rows];
  if (rows.length < 2 || rows.some((row) => row.querySelector('[colspan], [rowspan]'))) return;
  const inOrder = rows.slice();
  [...table.tHead.rows[0].cells].forEach((head, column) => {
    if (head.matches('.pickcell, [aria-sort]') || head.textContent.trim() === '' || head.querySelector('input, button, a')) return;
    const button = document.createElement('button');
    button.type = 'button';
    button.className = 'sort';
    button.append(...head.childNodes);
    head.append(button);
    head.setAttribute('aria-sort', 'none');
    button.addEventListener('click', () => {
      const next = { none: 'ascending', ascending: 'descending', descending: 'none' }[head.getAttribute('aria-sort')];
      table.tHead.querySelectorAll('[aria-sort]').forEach((other) => other.setAttribute('aria-sort', 'none'));
      head.setAttribute('aria-sort', next);
      const sorted = inOrder.slice();
      if (next !== 'none') sorted.sort((a, b) => natural(key(a, column), key(b, column)));
      if (next === 'descending') sorted.reverse();
      table.tBodies[0].append(...sorted);
    });
  });
}

const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** Names and addresses as people count: figures by their value, what is blank at the end. */
function natural(a, b) {
  if (a === '' || b === '') return a === b ? 0 : a === '' ? 1 : -1;
  return collator.compare(a, b);
}

/** What a cell is sorted by: its key where it has one, else its text; digits of a number stand together. */
function key(row, column) {
  const cell = row.cells[column];
  return (cell?.dataset.key ?? cell?.textContent ?? '').trim().replace(/(\d),(?=\d{3})/g, '$1');
}

/** A field that is dragged says its value beside it. */
export function shown() {
  document.addEventListener('input', ({ target }) => {
    const place = target.dataset?.shown && document.getElementById(target.dataset.shown);
    if (place) place.textContent = `${target.value} %`;
  });
}
