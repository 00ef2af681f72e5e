/**
 * The ruler: zoom by Ctrl and wheel, by + and - around the block in focus, and choosing a part of open water by dragging. A zoomed
 * ruler is a page of its own, so its address can be kept; without script the + and - links do the same.
 */
export function ruler() {
  const section = document.querySelector('[data-ruler]');
  const strip = section?.querySelector('svg.strip');
  if (!strip) return;
  const share = (x) => {
    const box = strip.getBoundingClientRect();
    return Math.min(0.999999, Math.max(0, (x - box.left) / box.width));
  };
  const zoom = (at, by) => {
    if (by < 0 && section.dataset.ruler === section.dataset.whole) return;
    const url = new URL(section.dataset.at);
    const filter = new URLSearchParams(location.search).get('filter');
    url.search = new URLSearchParams({ zoom: section.dataset.ruler, at: at.toFixed(6), by: String(by), ...(filter ? { filter } : {}) });
    url.hash = 'ruler';
    location.assign(url);
  };
  section.addEventListener('wheel', (event) => {
    if (!event.ctrlKey) return;
    event.preventDefault();
    zoom(share(event.clientX), event.deltaY < 0 ? 2 : -2);
  }, { passive: false });
  document.addEventListener('keydown', (event) => {
    if (event.target.matches('input, textarea, select') || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key !== '+' && event.key !== '-') return;
    const block = document.activeElement?.closest('.lane a');
    const box = block?.getBoundingClientRect();
    event.preventDefault();
    zoom(box ? share(box.left + box.width / 2) : 0.5, event.key === '+' ? 2 : -2);
  });
  drag(strip);
}

/** Dragging across an open block chooses the smallest aligned prefix that begins there and is as wide as the stretch. */
function drag(strip) {
  let from = null;
  strip.addEventListener('pointerdown', (event) => {
    const link = event.target.closest('a[data-choose-prefix]');
    from = link ? { link, x: event.clientX, mark: null } : null;
    if (link) event.preventDefault();
  });
  strip.addEventListener('pointermove', (event) => {
    if (!from || Math.abs(event.clientX - from.x) < 5) return;
    const chosen = part(from.link, from.x, event.clientX);
    from.chosen = chosen.prefix;
    if (!from.mark) {
      from.mark = document.createElementNS('http://www.w3.org/2000/svg', 'rect');
      from.mark.setAttribute('class', 'pick');
      from.mark.setAttribute('height', '100%');
      from.link.querySelector('svg').append(from.mark);
    }
    from.mark.setAttribute('x', `${chosen.start * 100}%`);
    from.mark.setAttribute('width', `${chosen.width * 100}%`);
  });
  window.addEventListener('pointerup', () => {
    const input = document.querySelector('#carve [name=prefix]');
    if (from?.chosen && input) {
      const chosen = from.chosen;
      // The click that follows would choose the whole block.
      from.link.addEventListener('click', (click) => { click.preventDefault(); click.stopPropagation(); }, { once: true, capture: true });
      input.value = chosen;
      const length = input.form.querySelector('[name=length]');
      const wanted = chosen.split('/')[1];
      if (length && [...length.options].some((o) => o.value === wanted)) length.value = wanted;
      input.closest('form').querySelectorAll('[name=fit-place]').forEach((r) => { r.checked = false; });
      input.dispatchEvent(new Event('change', { bubbles: true }));
    }
    if (from && !from.chosen) from.mark?.remove();
    from = null;
  });
}

function part(link, a, b) {
  const box = link.getBoundingClientRect();
  const clip = (x) => Math.min(1, Math.max(0, (x - box.left) / box.width));
  const [low, high] = [clip(Math.min(a, b)), clip(Math.max(a, b))];
  const [first, length] = link.dataset.choosePrefix.split('/');
  const six = first.includes(':');
  const most = (six ? 64 : 32) - Number(length);
  const more = Math.max(0, Math.min(most, Math.floor(-Math.log2(Math.max(high - low, 2 ** -most)) + 1e-9)));
  const steps = 2 ** more;
  const index = Math.min(steps - 1, Math.floor(low * steps));
  const bits = six ? 128 : 32;
  const start = toBig(first) + (BigInt(index) << BigInt(bits - Number(length) - more));
  return { prefix: `${fromBig(start, six)}/${Number(length) + more}`, start: index / steps, width: 1 / steps };
}

function toBig(text) {
  if (!text.includes(':')) return text.split('.').reduce((sum, octet) => sum * 256n + BigInt(octet), 0n);
  const [head, tail = null] = text.split('::');
  const left = head ? head.split(':') : [];
  const right = tail ? tail.split(':') : [];
  const groups = tail === null ? left : [...left, ...Array(8 - left.length - right.length).fill('0'), ...right];
  return groups.reduce((sum, group) => sum * 65536n + BigInt(`0x${group || '0'}`), 0n);
}

function fromBig(value, six) {
  if (!six) return [24n, 16n, 8n, 0n].map((s) => (value >> s) & 255n).join('.');
  return Array.from({ length: 8 }, (_, i) => ((value >> BigInt(112 - 16 * i)) & 65535n).toString(16)).join(':');
}
