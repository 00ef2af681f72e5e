/**
 * The fields of the chosen record type in place of its data as one text. Which fields a type has comes with the page; what is
 * typed is put together, and checked, by the server.
 */
export function recordFields(root) {
  const type = root.querySelector?.('#record-type');
  const data = root.querySelector?.('#record-data[data-layouts]');
  if (!type || !data || type.dataset.ready) return;
  type.dataset.ready = '1';
  const layouts = JSON.parse(data.dataset.layouts);
  const holder = document.createElement('div');
  holder.className = 'form';
  data.closest('.field').after(holder);
  data.closest('.field').hidden = true;
  data.disabled = true;

  function draw(values) {
    holder.replaceChildren(...layouts[type.value].map((layout, i) => {
      const field = document.createElement('div');
      field.className = 'field';
      const caption = document.createElement('span');
      const name = document.createElement('label');
      name.textContent = layout.label;
      name.htmlFor = `record-field-${i}`;
      caption.append(name);
      const input = document.createElement('input');
      input.id = name.htmlFor;
      input.name = `fields[${i}]`;
      input.className = 'mono';
      input.placeholder = layout.example;
      input.autocomplete = 'off';
      input.spellcheck = false;
      input.value = values[i] ?? '';
      if (layout.kind === 'number') input.inputMode = 'numeric';
      field.append(caption, input);
      return field;
    }));
  }

  type.addEventListener('change', () => draw([]));
  draw(JSON.parse(data.dataset.values));
}
