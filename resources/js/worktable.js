/** Tables that are worked in: arrows move between rows, the first box picks all, the bar counts what is picked. */
export function worktables(root) {
  root.querySelectorAll?.('table[data-worktable]').forEach((table) => {
    if (table.dataset.ready) return;
    table.dataset.ready = '1';
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

/** Says anew how many rows are picked, for parts of the page that came later. */
export function recount() {
  document.querySelectorAll('table[data-worktable]').forEach(count);
}

function count(table) {
  const picked = table.querySelectorAll('tbody .pick:checked').length;
  document.querySelectorAll('[data-picked]').forEach((e) => {
    e.textContent = String(picked);
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
