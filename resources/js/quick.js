/** The find field answers while one types: arrows walk through what it found, Enter jumps to what is just what was typed. */
export function quick() {
  const field = document.getElementById('find');
  const list = document.getElementById('quick');
  if (!field || !list) return;
  const close = () => list.replaceChildren();

  field.addEventListener('keydown', (event) => {
    if (event.key === 'Enter') {
      const exact = [...list.querySelectorAll('[data-exact]')].filter((a) => a.dataset.exact === field.value.trim());
      if (exact.length === 1) {
        event.preventDefault();
        exact[0].click();
      }
    } else if (event.key === 'ArrowDown') {
      event.preventDefault();
      list.querySelector('a')?.focus();
    }
  });
  list.addEventListener('keydown', (event) => {
    const links = [...list.querySelectorAll('a')];
    const at = links.indexOf(document.activeElement);
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      (links[at + (event.key === 'ArrowDown' ? 1 : -1)] ?? field).focus();
    } else if (event.key === 'Escape') {
      event.stopPropagation();
      close();
      field.focus();
    }
  });
  document.addEventListener('click', (event) => event.target.closest('.find') || close());
  field.form.addEventListener('focusout', (event) => event.relatedTarget && !field.form.contains(event.relatedTarget) && close());
}
