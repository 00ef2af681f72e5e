/** What stands in a cell of figures is copied by a click on the sign beside it, or by `c` while its row or cell has the focus. */
const COPIED = 'td.mono, dd.mono, .title .mono';

export function copying() {
  const sign = Object.assign(document.createElement('button'), { type: 'button', className: 'copy', textContent: 'copy', tabIndex: -1 });
  sign.setAttribute('aria-hidden', 'true');
  let cell = null;
  document.addEventListener('pointerover', (event) => {
    if (event.target === sign) return;
    const over = event.target.closest?.(COPIED);
    if (!over || !textOf(over)) return sign.remove();
    cell = over;
    sign.textContent = 'copy';
    const at = over.getBoundingClientRect();
    const text = document.createRange();
    text.selectNodeContents(over);
    const end = Math.min(text.getBoundingClientRect().right, at.right - 4);
    Object.assign(sign.style, { left: `${end + 4 + scrollX}px`, top: `${at.top + at.height / 2 - 9 + scrollY}px` });
    document.body.append(sign);
  });
  sign.addEventListener('click', () => copy(textOf(cell), sign));
  document.addEventListener('keydown', (event) => {
    if (
      event.key !== 'c' ||
      event.ctrlKey ||
      event.metaKey ||
      event.altKey ||
      event.target.matches('input:not([type=checkbox]), textarea, select')
    )
      return;
    const found = event.target.closest('td')?.matches(COPIED)
      ? event.target.closest('td')
      : event.target.closest('tr')?.querySelector(COPIED);
    if (found) copy(textOf(found), null);
  });
}

/** Without what hangs on it: a mark, a hint, when it was renewed. */
function textOf(cell) {
  const bare = cell.cloneNode(true);
  bare.querySelectorAll('svg, .hint, .soft, .sr, button').forEach((extra) => extra.remove());
  const text = bare.textContent.replace(/\s+/g, ' ').trim();
  return text === 'none' ? '' : text;
}

async function copy(text, sign) {
  try {
    await navigator.clipboard.writeText(text);
  } catch {
    const area = Object.assign(document.createElement('textarea'), { value: text });
    document.body.append(area);
    area.select();
    document.execCommand('copy');
    area.remove();
  }
  if (sign) sign.textContent = 'copied';
  const said = document.getElementById('follows-said');
  if (said) said.textContent = `copied ${text}`;
}
