/** An address that a device reads with its camera, drawn as a QR code (ISO/IEC 18004); the same stands beside it as text. */
const QUIET = 4;

export async function qr() {
  const places = document.querySelectorAll('[data-qr]:empty');
  if (places.length === 0) return;
  const { default: code } = await import('qrcode');
  for (const place of places)
    place.append(drawn(code.create(place.dataset.qr, { errorCorrectionLevel: 'M' }).modules, place.dataset.label));
}

function drawn(modules, label) {
  const side = modules.size + 2 * QUIET;
  const svg = made('svg', { viewBox: `0 0 ${side} ${side}`, role: 'img', 'aria-label': label, class: 'qr' });
  let path = '';
  for (let y = 0; y < modules.size; y++)
    for (let x = 0; x < modules.size; x++) if (modules.get(y, x)) path += `M${x + QUIET} ${y + QUIET}h1v1h-1z`;
  svg.append(made('rect', { width: side, height: side, fill: '#fff' }), made('path', { d: path, fill: '#000' }));
  return svg;
}

function made(name, attributes) {
  const element = document.createElementNS('http://www.w3.org/2000/svg', name);
  for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, value);
  return element;
}
