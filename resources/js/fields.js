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
    holder.replaceChildren(
      ...layouts[type.value].map((layout, i) => {
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
      }),
    );
  }

  fullName(root);
  const rightTypes = () =>
    document.querySelectorAll('[data-of-types]').forEach((part) => {
      part.hidden = !part.dataset.ofTypes.split(' ').includes(type.value);
    });
  type.addEventListener('change', () => {
    draw([]);
    rightTypes();
  });
  rightTypes();
  draw(JSON.parse(data.dataset.values));
}

/** Says while a name is typed what it will be: complete, in lower case, with the zone added once. */
function fullName(root) {
  const input = root.querySelector('input[data-origin]');
  if (!input) return;
  const said = document.createElement('span');
  said.className = 'hint mono';
  said.setAttribute('aria-live', 'polite');
  input.closest('.field').append(said);
  const { origin } = input.dataset;
  const say = () => {
    const text = input.value.trim().toLowerCase();
    const absolute = text.endsWith('.');
    const doubled = !absolute && (text === origin || text.endsWith(`.${origin}`));
    const full = text === '' || text === '@' ? origin : absolute ? text.slice(0, -1) : `${text}.${origin}`;
    const words = doubled ? `${full}: the zone stands in it twice; end the name with a dot` : full;
    // A long name breaks between its labels, and is copied without the breaks.
    said.replaceChildren(...words.split('.').flatMap((part, i) => (i === 0 ? [part] : ['.', document.createElement('wbr'), part])));
    said.classList.toggle('warn', doubled);
  };
  input.addEventListener('input', say);
  say();
}
