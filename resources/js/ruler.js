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
  section.addEventListener(
    'wheel',
    (event) => {
      if (!event.ctrlKey) return;
      event.preventDefault();
      zoom(share(event.clientX), event.deltaY < 0 ? 2 : -2);
    },
    { passive: false },
  );
  document.addEventListener('keydown', (event) => {
    if (!section.isConnected) return;
    if (event.target.matches('input, textarea, select') || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key !== '+' && event.key !== '-') return;
    const block = document.activeElement?.closest('.lane a');
    const box = block?.getBoundingClientRect();
    event.preventDefault();
    zoom(box ? share(box.left + box.width / 2) : 0.5, event.key === '+' ? 2 : -2);
  });
  // Who carves nothing here chooses nothing.
  if (section.querySelector('[data-said]')) {
    drag(strip);
    choose(strip);
  }
}

/** By keyboard, within the open block in focus: down and up halve and double the part, Shift and arrows move it, Enter takes it. */
function choose(strip) {
  let part = null;
  const clear = () => {
    part?.mark.remove();
    part = null;
  };
  strip.addEventListener('focusout', clear);
  strip.addEventListener('keydown', (event) => {
    const link = event.target.closest('a[data-choose-prefix]');
    if (!link || event.ctrlKey || event.metaKey || event.altKey) return;
    const along = event.shiftKey && { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const size = !event.shiftKey && { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (part && event.key === 'Enter') {
      event.preventDefault();
      event.stopPropagation();
      take(part.prefix);
      return clear();
    }
    if (part && event.key === 'Escape') return clear();
    if (!along && !size) return;
    event.preventDefault();
    event.stopPropagation();
    const most = mostSteps(link);
    const more = Math.min(most, Math.max(0, (part?.more ?? 0) + (size || 0)));
    const steps = 2 ** more;
    const index = size ? Math.floor((part?.index ?? 0) * 2 ** size) : (part?.index ?? 0) + along;
    const chosen = piece(link, more, Math.min(steps - 1, Math.max(0, index)));
    part = { ...chosen, mark: part?.mark ?? marker(link) };
    place(part.mark, chosen);
    strip.closest('[data-ruler]').querySelector('[data-said]').textContent = `${chosen.prefix} chosen, Enter takes it`;
  });
}

function marker(link) {
  const mark = document.createElementNS('http://www.w3.org/2000/svg', 'rect');
  mark.setAttribute('class', 'pick');
  mark.setAttribute('height', '100%');
  link.querySelector('svg').append(mark);
  return mark;
}

function place(mark, chosen) {
  mark.setAttribute('x', `${chosen.start * 100}%`);
  mark.setAttribute('width', `${chosen.width * 100}%`);
}

/** Writes a chosen prefix into the form that carves it. */
function take(chosen) {
  const input = document.querySelector('#carve [name=prefix]');
  if (!input) return;
  input.value = chosen;
  const length = input.form.querySelector('[name=length]');
  const wanted = chosen.split('/')[1];
  if (length && [...length.options].some((o) => o.value === wanted)) length.value = wanted;
  input
    .closest('form')
    .querySelectorAll('[name=fit-place]')
    .forEach((r) => {
      r.checked = false;
    });
  input.dispatchEvent(new Event('change', { bubbles: true }));
  input.focus();
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
    from.mark ??= marker(from.link);
    place(from.mark, chosen);
  });
  window.addEventListener('pointerup', () => {
    if (from?.chosen) {
      // The click that follows would choose the whole block.
      from.link.addEventListener(
        'click',
        (click) => {
          click.preventDefault();
          click.stopPropagation();
        },
        { once: true, capture: true },
      );
      take(from.chosen);
    }
    if (from && !from.chosen) from.mark?.remove();
    from = null;
  });
}

function part(link, a, b) {
  const box = link.getBoundingClientRect();
  const clip = (x) => Math.min(1, Math.max(0, (x - box.left) / box.width));
  const [low, high] = [clip(Math.min(a, b)), clip(Math.max(a, b))];
  const most = mostSteps(link);
  const more = Math.max(0, Math.min(most, Math.floor(-Math.log2(Math.max(high - low, 2 ** -most)) + 1e-9)));
  return piece(link, more, Math.min(2 ** more - 1, Math.floor(low * 2 ** more)));
}

/** How often a block can be halved: to single IPv4 addresses, to IPv6 subnets. */
function mostSteps(link) {
  const [first, length] = link.dataset.choosePrefix.split('/');
  return (first.includes(':') ? 64 : 32) - Number(length);
}

/** The piece of an open block that is cut `more` times in half, by its place among its peers. */
function piece(link, more, index) {
  const [first, length] = link.dataset.choosePrefix.split('/');
  const six = first.includes(':');
  const steps = 2 ** more;
  const start = toBig(first) + (BigInt(index) << BigInt((six ? 128 : 32) - Number(length) - more));
  return { prefix: `${fromBig(start, six)}/${Number(length) + more}`, start: index / steps, width: 1 / steps, more, index };
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
