/** The fields of each record type, so that nobody has to know the order; together they are the data that is sent. */
const FIELDS = {
  A: [['IPv4 address', '192.0.2.1']],
  AAAA: [['IPv6 address', '2001:db8::1']],
  CNAME: [['Is an alias of', 'host, or a name with a final dot']],
  NS: [['Name server', 'ns1']],
  PTR: [['Points to', 'host.example.']],
  MX: [['Preference', '10', 'number'], ['Mail exchanger', 'mail']],
  SRV: [['Priority', '10', 'number'], ['Weight', '60', 'number'], ['Port', '5060', 'number'], ['Host', 'voice']],
  TXT: [['Text', 'v=spf1 mx -all', 'text']],
  CAA: [['Flags', '0', 'number'], ['Tag', 'issue'], ['Value', 'ca.example.net', 'text']],
};

export function recordFields(root) {
  const type = root.querySelector?.('#record-type');
  const data = root.querySelector?.('#record-data');
  if (!type || !data || type.dataset.ready) return;
  type.dataset.ready = '1';
  const holder = document.createElement('div');
  holder.className = 'form';
  data.closest('.field').after(holder);
  data.closest('.field').hidden = true;

  function draw() {
    holder.replaceChildren(...FIELDS[type.value].map(([label, hint, kind], i) => {
      const field = document.createElement('div');
      field.className = 'field';
      const caption = document.createElement('span');
      const name = document.createElement('label');
      name.textContent = label;
      name.htmlFor = `record-field-${i}`;
      caption.append(name);
      const input = document.createElement('input');
      input.id = name.htmlFor;
      input.className = 'mono';
      input.placeholder = hint;
      input.autocomplete = 'off';
      input.spellcheck = false;
      input.dataset.kind = kind ?? 'name';
      if (kind === 'number') input.inputMode = 'numeric';
      input.addEventListener('input', compose);
      field.append(caption, input);
      return field;
    }));
  }

  function compose() {
    const parts = [...holder.querySelectorAll('input')].map((f) => (f.dataset.kind === 'text' ? quoted(f.value) : f.value.trim()));
    data.value = parts.join(' ').trim();
  }

  type.addEventListener('change', () => {
    data.value = '';
    draw();
  });
  const given = data.value;
  draw();
  if (given !== '') {
    // What was typed before a refusal is put back as it was, as one text.
    data.closest('.field').hidden = false;
    holder.remove();
    data.value = given;
  }
}

/** Strings of at most 255 characters, in quotes. */
function quoted(text) {
  const escaped = (part) => `"${part.replace(/(["\\])/g, '\\$1')}"`;
  return (text.match(/[\s\S]{1,255}/g) ?? ['']).map(escaped).join(' ');
}
